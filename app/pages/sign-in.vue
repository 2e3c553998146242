<script setup lang="ts">
import SignInScreen from '~/features/account/SignInScreen.vue'

definePageMeta({ layout: 'plain' })
</script>

<template>
  <SignInScreen />
</template>
