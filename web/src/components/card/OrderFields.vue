<script setup lang="ts">
import { api } from '../../api/client'
import type { Likeness, Order } from '../../generated/types'
import { useBench } from '../../stores/bench'
import { useNotices } from '../../stores/notices'

/** What lies over what, what else to select, and copies along a step. */
const bench = useBench()
const notices = useNotices()
async function also(by: Likeness) {
  const id = bench.selection[0]
  if (!id || !bench.job) return
  try {
    const found = await api.alike(bench.job.id, id, by)
    if (found.length <= 1) notices.say('Nothing else on this side is like it.')
    else bench.selection = found
  } catch (error) {
    notices.report(error)
  }
}

function choose(event: Event, take: (value: string) => void) {
  const field = event.target as HTMLSelectElement
  take(field.value)
  field.value = ''
}
</script>

<template>
  <div class="order">
    <select class="field" aria-label="Order" value="" @change="choose($event, (v) => bench.reorder(v as Order))" @keydown.stop>
      <option value="" disabled>Order…</option>
      <option value="front">To the front (Shift Page up)</option>
      <option value="forward">Forward (Page up)</option>
      <option value="back">Back (Page down)</option>
      <option value="bottom">To the very back (Shift Page down)</option>
      <option value="behind">Behind what it covers</option>
    </select>
    <select class="field" aria-label="Select what is alike" value="" @change="choose($event, (v) => also(v as Likeness))" @keydown.stop>
      <option value="" disabled>Select alike…</option>
      <option value="kind">Same kind</option>
      <option value="colour">Same colour</option>
      <option value="family">Same family</option>
      <option value="words">All words</option>
    </select>
  </div>
</template>

<style scoped>
.order {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 8px;
}

select {
  padding: 0 4px;
}
</style>
