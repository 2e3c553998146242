<script setup lang="ts">
import WorkedOutScreen from '~/features/fields/WorkedOutScreen.vue'
</script>

<template>
  <WorkedOutScreen />
</template>
