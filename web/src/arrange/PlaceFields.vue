<script setup lang="ts">
import { FlipHorizontal2, Link2, Link2Off } from '@lucide/vue'
import { ElRadioButton, ElRadioGroup } from 'element-plus'
import { useLocalStorage } from '@vueuse/core'
import { computed, reactive, ref } from 'vue'
import { showLength, toFine } from '../measures'
import { useBench, type Plain } from '../stores/bench'
import AngleField from '../parts/AngleField.vue'
import MeasureField from '../parts/MeasureField.vue'
import FoldGroup from '../parts/FoldGroup.vue'
import NumberField from '../parts/NumberField.vue'

/** Where the item sits in this piece, by exact number. */
const props = defineProps<{ plain: Plain }>()
const bench = useBench()

const place = computed(() => props.plain.item.place)
const drawn = computed(() => bench.drawn.get(props.plain.item.id))
const format = computed(() => bench.piece!.format)
/** Words that are as high as their lines are measured as they are drawn. */
const grows = computed(() => (drawn.value?.handles ?? 'all') !== 'all')
const rect = computed(() => {
  const frame = grows.value ? drawn.value?.frame : undefined
  return frame ? { x: toFine(frame.x), y: toFine(frame.y), w: toFine(frame.w), h: toFine(frame.h) } : place.value.at.rect
})
const height = computed(() => rect.value.h)

/** The point of the box that is read and kept: 0, 1 or 2 of its halves across and down. */
const at = useLocalStorage('vatman-reference', { x: 0, y: 0 })
const across = ['left', 'middle', 'right']
const down = ['top', 'middle', 'bottom']
const half = (length: number, halves: number) => Math.round((length * halves) / 2)
const x = computed(() => rect.value.x + half(rect.value.w, at.value.x))
const y = computed(() => rect.value.y + half(height.value, at.value.y))

/** A picture or a graphic keeps its proportion unless it is let free here. */
const bound = computed(() => drawn.value?.bound ?? false)
const free = ref(false)

const step = reactive({ x: rect.value.w, y: 0 })
const times = ref(3)
const says = computed(() => {
  const length = (fine: number) => showLength(fine, format.value.unit, format.value.ppi)
  return `${length(rect.value.w)} × ${length(height.value)} ${format.value.unit}`
})
const set = (numbers: { x?: number; y?: number; w?: number; h?: number }) =>
  void bench.act({ act: 'setBox', item: props.plain.item.id, numbers: { point: [at.value.x, at.value.y], free: free.value, ...numbers } })
</script>

<template>
  <FoldGroup name="place" title="Place" :says="says">
    <div class="head">
      <span class="quiet">Measured at its {{ down[at.y] }} {{ across[at.x] }}</span>
      <ElRadioGroup
        class="points"
        :model-value="`${at.x}${at.y}`"
        aria-label="Point of the item that is measured"
        @update:model-value="at = { x: Number(String($event)[0]), y: Number(String($event)[1]) }">
        <template v-for="v in [0, 1, 2]" :key="v">
          <ElRadioButton v-for="h in [0, 1, 2]" :key="h" :value="`${h}${v}`"
            ><span class="visually-hidden">{{ down[v] }} {{ across[h] }}</span></ElRadioButton
          >
        </template>
      </ElRadioGroup>
    </div>
    <div class="grid">
      <MeasureField
        label="From the left"
        short="X"
        :value="x"
        :unit="format.unit"
        :ppi="format.ppi"
        :whole="format.size.w"
        @change="set({ x: $event })" />
      <MeasureField
        label="From the top"
        short="Y"
        :value="y"
        :unit="format.unit"
        :ppi="format.ppi"
        :whole="format.size.h"
        @change="set({ y: $event })" />
      <MeasureField
        label="Width"
        short="W"
        :value="rect.w"
        :unit="format.unit"
        :ppi="format.ppi"
        :whole="format.size.w"
        :least="1"
        @change="set({ w: $event })" />
      <MeasureField
        label="Height"
        short="H"
        :value="height"
        :unit="format.unit"
        :ppi="format.ppi"
        :whole="format.size.h"
        :least="1"
        :disabled="grows"
        @change="set({ h: $event })" />
      <AngleField label="Turn" :value="place.at.turn" @done="bench.act({ act: 'turnTo', item: plain.item.id, turn: $event })" />
      <button v-if="bound" class="act" :aria-pressed="!free" data-tip="Width and height keep their proportion" @click="free = !free">
        <Link2Off v-if="free" :size="15" /><Link2 v-else :size="15" />Proportion
      </button>
      <button class="act" :aria-pressed="place.at.flip" @click="bench.act({ act: 'mirror', items: [plain.item.id] })">
        <FlipHorizontal2 :size="15" />Mirror
      </button>
    </div>
    <div class="copies">
      <h3>Copies in a step</h3>
      <div class="grid">
        <MeasureField label="Step to the right" short="→" :value="step.x" :unit="format.unit" :ppi="format.ppi" @change="step.x = $event" />
        <MeasureField label="Step down" short="↓" :value="step.y" :unit="format.unit" :ppi="format.ppi" @change="step.y = $event" />
        <label class="times"
          ><span>Copies</span><NumberField label="How many copies" :value="times" :least="1" :most="200" whole @done="times = $event"
        /></label>
        <button class="act" @click="bench.duplicate({ ...step }, times)">Make copies</button>
      </div>
    </div>
  </FoldGroup>
</template>

<style scoped>
.head {
  display: flex;
  align-items: center;
  justify-content: space-between;
}

.points {
  display: grid;
  grid-template-columns: repeat(3, 13px);
  gap: 2px;
}

.points :deep(.el-radio-button__inner) {
  display: block;
  width: 13px;
  height: 13px;
  padding: 0;
  border: 1px solid var(--rule-strong);
  border-radius: 1px;
  box-shadow: none;
}

.points :deep(.is-active .el-radio-button__inner) {
  background: var(--ink);
  border-color: var(--ink);
  box-shadow: none;
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
