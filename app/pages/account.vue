<script setup lang="ts">
import AccountScreen from '~/features/account/AccountScreen.vue'
</script>

<template>
  <AccountScreen />
</template>
