<script setup lang="ts">
import DeletedScreen from '~/features/records/DeletedScreen.vue'
</script>

<template>
  <DeletedScreen />
</template>
