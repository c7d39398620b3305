<script setup lang="ts">
/** The ways a job leaves: as files, on sheets of paper, once for each row of a list. */
defineProps<{ way: 'hand-over' | 'sheets' | 'list' | 'shop' | 'cloth'; job: string }>()
const ways = [
  { way: 'hand-over', name: 'Files' },
  { way: 'sheets', name: 'Print sheets' },
  { way: 'list', name: 'From a list' },
  { way: 'shop', name: 'Print shop' },
  { way: 'cloth', name: 'On cloth' },
]
</script>

<template>
  <nav class="ways" aria-label="Ways to hand over">
    <RouterLink
      v-for="entry in ways"
      :key="entry.way"
      :to="{ name: entry.way, params: { job } }"
      :aria-current="entry.way === way ? 'page' : undefined"
      :data-way="entry.way"
      >{{ entry.name }}</RouterLink
    >
  </nav>
</template>

<style scoped>
.ways {
  display: flex;
  gap: 4px;
  padding: 6px 16px 0;
  border-bottom: 1px solid var(--rule);
}

a {
  padding: 6px 14px 8px;
  color: var(--ink-2);
  text-decoration: none;
}

a:hover {
  color: var(--ink);
}

a[aria-current] {
  color: var(--ink);
  font-weight: 600;
  box-shadow: inset 0 -2px var(--ink);
}
</style>
