<script setup lang="ts">
import FieldsScreen from '~/features/fields/FieldsScreen.vue'
</script>

<template>
  <FieldsScreen />
</template>
