<script setup lang="ts">
import PeopleScreen from '~/features/people/PeopleScreen.vue'
</script>

<template>
  <PeopleScreen />
</template>
