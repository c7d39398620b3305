<script setup lang="ts">
import BenchBar from '../bench/BenchBar.vue'
import HandTabs from './HandTabs.vue'

/** What every way to hand over stands in: the bar of the job, the ways, and columns of its own below. */
defineProps<{ way: 'hand-over' | 'sheets' | 'list' | 'shop' | 'cloth'; job: string; columns: string }>()
</script>

<template>
  <div class="view">
    <BenchBar step="hand-over" :job="job" />
    <HandTabs :way="way" :job="job" />
    <main :style="{ gridTemplateColumns: columns }"><slot /></main>
  </div>
</template>

<style scoped>
.view {
  height: 100%;
  display: grid;
  grid-template-rows: var(--bar) auto minmax(0, 1fr);
}

main {
  display: grid;
  min-height: 0;
}
</style>
