<script setup lang="ts">
import { FlipHorizontal2 } from '@lucide/vue'
import { computed } from 'vue'
import type { Look, Place, Rect, Stroke } from '../../generated/types'
import { ANGLE_DEGREE, RATIO_WHOLE, toFine } from '../../measures'
import { useBench, type Plain } from '../../stores/bench'
import DraftField from '../parts/DraftField.vue'
import MeasureField from '../parts/MeasureField.vue'

/** Where the item sits in this piece, by exact number. */
const props = defineProps<{ plain: Plain; line: Stroke | null; setLook: (change: (look: Look) => Look, continuing?: boolean) => void }>()
const bench = useBench()

const place = computed(() => props.plain.item.place)
const rect = computed(() => place.value.at.rect)
const format = computed(() => bench.piece!.format)
/** Text that grows is as high as its lines. */
const grows = computed(() => props.plain.content.kind === 'words' && (props.plain.look.type?.fit.kind ?? 'grow') === 'grow')
const height = computed(() => (grows.value ? toFine(bench.drawn.get(props.plain.item.id)?.frame.h ?? 0) : rect.value.h))
const lineWidth = computed(() => Math.round(((props.line?.width ?? 0) * place.value.scale) / RATIO_WHOLE))

function set(change: Partial<Place['at']>) {
  void bench.edit({ do: 'setPlace', item: props.plain.item.id, place: { ...place.value, at: { ...place.value.at, ...change } } })
}
const setRect = (change: Partial<Rect>) => set({ rect: { ...rect.value, ...change } })

function turn(typed: string) {
  const value = Number(typed.replace('°', '').replace(',', '.').trim())
  if (Number.isFinite(value) && Math.abs(value) <= 36_000 && typed.trim()) set({ turn: Math.round(value * ANGLE_DEGREE) })
}
const shownTurn = computed(() => `${Math.round((place.value.at.turn / ANGLE_DEGREE) * 100) / 100}°`)

function setLineWidth(fine: number) {
  const width = Math.round((fine * RATIO_WHOLE) / place.value.scale)
  props.setLook((look) => (look.stroke ? { ...look, stroke: { ...look.stroke, width } } : look))
}
</script>

<template>
  <section>
    <h3>Place in this piece</h3>
    <div class="grid">
      <MeasureField label="From the left" short="X" :value="rect.x" :unit="format.unit" :ppi="format.ppi" :whole="format.size.w" @change="setRect({ x: $event })" />
      <MeasureField label="From the top" short="Y" :value="rect.y" :unit="format.unit" :ppi="format.ppi" :whole="format.size.h" @change="setRect({ y: $event })" />
      <MeasureField label="Width" short="W" :value="rect.w" :unit="format.unit" :ppi="format.ppi" :whole="format.size.w" :least="1" @change="setRect({ w: $event })" />
      <MeasureField label="Height" short="H" :value="height" :unit="format.unit" :ppi="format.ppi" :whole="format.size.h" :least="1" :disabled="grows" @change="setRect({ h: $event })" />
      <label class="turn"><span>∠</span><DraftField :value="shownTurn" aria-label="Turn in degrees" @done="turn" /></label>
      <button class="act" :aria-pressed="place.at.flip" @click="set({ flip: !place.at.flip })"><FlipHorizontal2 :size="15" />Mirror</button>
      <MeasureField v-if="line" class="wide" label="Width of the line" short="Line" :value="lineWidth" :unit="format.unit === 'px' ? 'px' : 'pt'" :ppi="format.ppi" :least="0" @change="setLineWidth" />
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

.turn {
  display: grid;
  grid-template-columns: 12px 1fr;
  align-items: center;
  gap: 6px;
  color: var(--ink-3);
}

.turn :deep(.field) {
  color: var(--ink);
}

.act[aria-pressed='true'] {
  background: var(--ink);
  color: var(--paper);
}
</style>
