<script setup lang="ts">
import SkyMark from '~/features/bar/SkyMark.vue'
</script>

<template>
  <div class="flex h-full flex-col">
    <header
      class="flex h-[46px] flex-none items-center gap-2 border-b border-hair px-5 font-serif text-[19px] font-semibold tracking-tight"
    >
      <SkyMark /><span>Sky Lever</span>
    </header>
    <main id="main" class="min-h-0 flex-1 overflow-auto"><slot /></main>
  </div>
</template>
