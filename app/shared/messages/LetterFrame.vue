<script setup lang="ts">
/** A mail as its reader sees it: in a frame that runs nothing, loads nothing and leads nowhere. */
const props = defineProps<{ html: string; title: string }>()
const whole = computed(
  () =>
    `<!doctype html><meta charset="utf-8"><meta http-equiv="content-security-policy" content="default-src 'none'; style-src 'unsafe-inline'"><style>body{font:15px/1.5 Georgia,serif;margin:12px;color:#1d2030;background:#fff;overflow-wrap:anywhere}a{color:#4a3f8f}</style>${props.html}`,
)
</script>

<template>
  <iframe
    :srcdoc="whole"
    :title="title"
    sandbox=""
    referrerpolicy="no-referrer"
    class="h-56 w-full rounded-[3px] border border-hair bg-white"
  />
</template>
