<script setup lang="ts">
import SetUpScreen from '~/features/account/SetUpScreen.vue'

definePageMeta({ layout: 'plain' })
</script>

<template>
  <SetUpScreen />
</template>
