<script setup lang="ts">
import SynonymsScreen from '~/features/fields/SynonymsScreen.vue'
</script>

<template>
  <SynonymsScreen />
</template>
