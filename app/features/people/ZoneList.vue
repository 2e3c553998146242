<script setup lang="ts">
/** The time zones that this browser knows, to choose from while typing. */
const zones = shallowRef<readonly string[]>([])
onMounted(() => {
  zones.value = Intl.supportedValuesOf('timeZone')
})
</script>

<template>
  <datalist id="zones"><option v-for="zone in zones" :key="zone" :value="zone" /></datalist>
</template>
