<script setup lang="ts">
import PreflightScreen from '~/features/rules/PreflightScreen.vue'
</script>

<template>
  <PreflightScreen />
</template>
