<script setup lang="ts">
import ReferenceScreen from '~/features/reference/ReferenceScreen.vue'
</script>

<template>
  <ReferenceScreen />
</template>
