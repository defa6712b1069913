<script setup lang="ts">
import LoadForm from './LoadForm.vue'
import LoadList from './LoadList.vue'
import OwnCases from './OwnCases.vue'
</script>

<template>
  <OwnCases />
  <LoadForm />
  <LoadList />
</template>
