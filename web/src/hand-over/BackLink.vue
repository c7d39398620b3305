<script setup lang="ts">
import { ArrowLeft } from '@lucide/vue'

/** From where a job is handed over back to where it is made. */
defineProps<{ job: string }>()
</script>

<template>
  <RouterLink class="back" :to="{ name: 'bench', params: { job } }"><ArrowLeft :size="14" />Back to the bench</RouterLink>
</template>

<style scoped>
.back {
  display: inline-flex;
  align-items: center;
  gap: 4px;
  color: var(--ink-2);
}
</style>
