<script setup lang="ts">
import LoadForm from './LoadForm.vue'
import LoadList from './LoadList.vue'
import CraneCases from './CraneCases.vue'
import OwnCases from './OwnCases.vue'
</script>

<template>
  <OwnCases />
  <CraneCases />
  <LoadForm />
  <LoadList />
</template>
