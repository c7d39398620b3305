<script setup lang="ts">
import { FlipHorizontal2 } from '@lucide/vue'
import { computed } from 'vue'
import type { Place, Rect } from '../../generated/types'
import { toFine } from '../../measures'
import { useBench, type Plain } from '../../stores/bench'
import AngleField from '../parts/AngleField.vue'
import MeasureField from '../parts/MeasureField.vue'

/** Where the item sits in this piece, by exact number. */
const props = defineProps<{ plain: Plain }>()
const bench = useBench()

const place = computed(() => props.plain.item.place)
const rect = computed(() => place.value.at.rect)
const format = computed(() => bench.piece!.format)
/** Text that grows is as high as its lines. */
const grows = computed(() => props.plain.content.kind === 'words' && (['grow', 'asTyped'].includes(props.plain.look.type?.fit.kind ?? 'grow') && props.plain.look.type?.curve?.kind !== 'circle'))
const height = computed(() => (grows.value ? toFine(bench.drawn.get(props.plain.item.id)?.frame.h ?? 0) : rect.value.h))

function set(change: Partial<Place['at']>) {
  void bench.edit({ do: 'setPlace', item: props.plain.item.id, place: { ...place.value, at: { ...place.value.at, ...change } } })
}
const setRect = (change: Partial<Rect>) => set({ rect: { ...rect.value, ...change } })
</script>

<template>
  <section>
    <h3>Place in this piece</h3>
    <div class="grid">
      <MeasureField label="From the left" short="X" :value="rect.x" :unit="format.unit" :ppi="format.ppi" :whole="format.size.w" @change="setRect({ x: $event })" />
      <MeasureField label="From the top" short="Y" :value="rect.y" :unit="format.unit" :ppi="format.ppi" :whole="format.size.h" @change="setRect({ y: $event })" />
      <MeasureField label="Width" short="W" :value="rect.w" :unit="format.unit" :ppi="format.ppi" :whole="format.size.w" :least="1" @change="setRect({ w: $event })" />
      <MeasureField label="Height" short="H" :value="height" :unit="format.unit" :ppi="format.ppi" :whole="format.size.h" :least="1" :disabled="grows" @change="setRect({ h: $event })" />
      <AngleField label="Turn" :value="place.at.turn" @done="set({ turn: $event })" />
      <button class="act" :aria-pressed="place.at.flip" @click="set({ flip: !place.at.flip })"><FlipHorizontal2 :size="15" />Mirror</button>
    </div>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 8px;
}

.grid {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 8px;
}

.act[aria-pressed='true'] {
  background: var(--ink);
  color: var(--paper);
}
</style>
