<script setup lang="ts">
import BoardScreen from '~/features/boards/BoardScreen.vue'
</script>

<template>
  <BoardScreen />
</template>
