<script setup lang="ts">
import { FlipHorizontal2 } from '@lucide/vue'
import { useLocalStorage } from '@vueuse/core'
import { computed, reactive, ref } from 'vue'
import { toFine } from '../../measures'
import { useBench, type Plain } from '../../stores/bench'
import AngleField from '../parts/AngleField.vue'
import MeasureField from '../parts/MeasureField.vue'
import NumberField from '../parts/NumberField.vue'

/** Where the item sits in this piece, by exact number. */
const props = defineProps<{ plain: Plain }>()
const bench = useBench()

const place = computed(() => props.plain.item.place)
const rect = computed(() => place.value.at.rect)
const format = computed(() => bench.piece!.format)
/** Text that grows is as high as its lines. */
const grows = computed(() => props.plain.content.kind === 'words' && (['grow', 'asTyped'].includes(props.plain.look.type?.fit.kind ?? 'grow') && props.plain.look.type?.curve?.kind !== 'circle'))
const height = computed(() => (grows.value ? toFine(bench.drawn.get(props.plain.item.id)?.frame.h ?? 0) : rect.value.h))

/** The point of the box that is read and kept: 0, 1 or 2 of its halves across and down. */
const at = useLocalStorage('vatman-reference', { x: 0, y: 0 })
const across = ['left', 'middle', 'right']
const down = ['top', 'middle', 'bottom']
const half = (length: number, halves: number) => Math.round((length * halves) / 2)
const x = computed(() => rect.value.x + half(rect.value.w, at.value.x))
const y = computed(() => rect.value.y + half(height.value, at.value.y))

const step = reactive({ x: rect.value.w, y: 0 })
const times = ref(3)
const set = (numbers: { x?: number; y?: number; w?: number; h?: number }) =>
  void bench.act({ act: 'setBox', item: props.plain.item.id, numbers: { point: [at.value.x, at.value.y], ...numbers } })
</script>

<template>
  <section>
    <div class="head">
      <h3>Place in this piece</h3>
      <div class="points" role="radiogroup" aria-label="Point of the item that is measured">
        <template v-for="v in [0, 1, 2]" :key="v">
          <button v-for="h in [0, 1, 2]" :key="h" role="radio" :aria-checked="at.x === h && at.y === v" :aria-label="`${down[v]} ${across[h]}`" :title="`Measured at its ${down[v]} ${across[h]}`" @click="at = { x: h, y: v }" />
        </template>
      </div>
    </div>
    <div class="grid">
      <MeasureField label="From the left" short="X" :value="x" :unit="format.unit" :ppi="format.ppi" :whole="format.size.w" @change="set({ x: $event })" />
      <MeasureField label="From the top" short="Y" :value="y" :unit="format.unit" :ppi="format.ppi" :whole="format.size.h" @change="set({ y: $event })" />
      <MeasureField label="Width" short="W" :value="rect.w" :unit="format.unit" :ppi="format.ppi" :whole="format.size.w" :least="1" @change="set({ w: $event })" />
      <MeasureField label="Height" short="H" :value="height" :unit="format.unit" :ppi="format.ppi" :whole="format.size.h" :least="1" :disabled="grows" @change="set({ h: $event })" />
      <AngleField label="Turn" :value="place.at.turn" @done="bench.act({ act: 'turnTo', item: plain.item.id, turn: $event })" />
      <button class="act" :aria-pressed="place.at.flip" @click="bench.act({ act: 'mirror', items: [plain.item.id] })"><FlipHorizontal2 :size="15" />Mirror</button>
    </div>
    <details class="copies">
      <summary>Copies in a step</summary>
      <div class="grid">
        <MeasureField label="Step to the right" short="→" :value="step.x" :unit="format.unit" :ppi="format.ppi" @change="step.x = $event" />
        <MeasureField label="Step down" short="↓" :value="step.y" :unit="format.unit" :ppi="format.ppi" @change="step.y = $event" />
        <label class="times"><span>Copies</span><NumberField label="How many copies" :value="times" :least="1" :most="200" whole @done="times = $event" /></label>
        <button class="act" @click="bench.duplicate({ ...step }, times)">Make copies</button>
      </div>
    </details>
  </section>
</template>

<style scoped>
.head {
  display: flex;
  align-items: end;
  justify-content: space-between;
}

.points {
  display: grid;
  grid-template-columns: repeat(3, 12px);
  gap: 2px;
}

.points button {
  width: 12px;
  height: 12px;
  border: 1px solid var(--rule-strong);
  border-radius: 1px;
}

.points button[aria-checked='true'] {
  background: var(--ink);
  border-color: var(--ink);
}

section {
  display: grid;
  gap: 8px;
}

summary {
  color: var(--ink-3);
  font-size: var(--text-1);
  cursor: pointer;
}

.copies .grid {
  margin-top: 6px;
}

.times {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  align-items: center;
  gap: 6px;
}

.times span {
  font-size: var(--text-1);
  color: var(--ink-3);
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
