<script setup lang="ts">
import { SquaresExclude, SquaresIntersect, SquaresSubtract, SquaresUnite } from '@lucide/vue'
import { computed } from 'vue'
import type { Combine } from '../generated/types'
import { useBench } from '../stores/bench'

/** Several shapes into one, or one that is made of several: how, and apart again. */
const bench = useBench()
const ways: { how: Combine; name: string; icon: typeof SquaresUnite }[] = [
  { how: 'unite', name: 'Unite', icon: SquaresUnite },
  { how: 'subtract', name: 'Take the upper ones out of the lowest', icon: SquaresSubtract },
  { how: 'intersect', name: 'Keep what they share', icon: SquaresIntersect },
  { how: 'exclude', name: 'Leave out what they share', icon: SquaresExclude },
]

const made = computed(() => {
  const content = bench.only?.content
  const outline = content?.kind === 'shape' ? content.outline : content?.kind === 'picture' ? content.frame : null
  return outline?.kind === 'combined' ? outline : null
})
const shown = computed(() => bench.selected.filter((p) => p.content.kind === 'picture' && p.content.picture).length)
const offered = computed(
  () => made.value !== null || (bench.selected.length > 1 && shown.value < 2 && bench.selected.every((p) => p.content.kind !== 'drawing')),
)

async function combine(how: Combine) {
  const only = bench.only
  if (made.value && only) {
    void bench.act({ act: 'combineOtherwise', item: only.item.id, how })
    return
  }
  const response = await bench.act({ act: 'combine', items: bench.selection, how })
  if (response) bench.selection = response.made
}

async function apart() {
  const response = await bench.act({ act: 'takeApart', item: bench.only!.item.id })
  if (response) bench.selection = response.made
}
</script>

<template>
  <section v-if="offered" class="combine" aria-label="Combine shapes">
    <span class="quiet">{{ made ? 'Made of shapes' : shown ? 'Cut the picture' : 'Into one shape' }}</span>
    <button
      v-for="way in ways"
      :key="way.how"
      class="tool"
      :aria-label="way.name"
      :aria-pressed="made ? made.how === way.how : undefined"
      @click="combine(way.how)">
      <component :is="way.icon" :size="16" />
    </button>
    <button v-if="made" class="act" @click="apart">Apart</button>
  </section>
</template>

<style scoped>
.combine {
  display: flex;
  align-items: center;
  gap: 2px;
}

.quiet {
  flex: 1;
  font-size: var(--text-1);
}

.act {
  height: 28px;
  padding: 0 8px;
}
</style>
