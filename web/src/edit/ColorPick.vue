<script setup lang="ts">
import { Pipette } from '@lucide/vue'
import { useMutationObserver } from '@vueuse/core'
import { ElColorPickerPanel, ElPopover } from 'element-plus'
import { computed, ref, watch } from 'vue'
import { ApiProblem, api } from '../api/client'
import type { SideColours, Tint } from '../generated/types'
import { useBench } from '../stores/bench'
import DraftField from '../parts/DraftField.vue'

/** A colour: one of the job's shared colours, or one of its own. `live` follows the hand, `done` comes once. */
const props = defineProps<{ label: string; tint: Tint | null; noneLabel?: string }>()
const emit = defineEmits<{ live: [tint: Tint]; done: [tint: Tint]; none: [] }>()

const bench = useBench()
const open = ref(false)
const wrong = ref('')

const swatches = computed(() =>
  Object.entries(bench.job?.swatches ?? {}).flatMap(([id, swatch]) => (swatch ? [{ tint: `@${id}`, ...swatch }] : [])),
)
const shown = computed(() => {
  if (!props.tint) return null
  return props.tint.startsWith('@') ? (bench.job?.swatches[props.tint.slice(1)]?.color ?? '#888888') : props.tint
})
const name = computed(() => {
  if (!props.tint) return props.noneLabel ?? 'none'
  return swatches.value.find((swatch) => swatch.tint === props.tint)?.name ?? shown.value
})

async function type(typed: string) {
  try {
    emit('done', await api.colour(typed))
    wrong.value = ''
  } catch (error) {
    wrong.value = error instanceof ApiProblem ? error.message : 'That is not a colour.'
  }
}

/** What is at hand for this side, asked for when the choice is opened. */
const atHand = ref<SideColours | null>(null)
watch(open, async (now) => {
  if (!now || !bench.job || !bench.sideId) return
  atHand.value = await api.colours(bench.job.id, bench.sideId, shown.value).catch(() => null)
})
/** Always in this order: used here, shared by the job, suggested. */
const groups = computed(() => [
  {
    name: 'Used on this side',
    colours: (atHand.value?.used ?? [])
      .filter((used) => !used.tint.startsWith('@'))
      .map((used) => ({ tint: used.tint, color: used.color, name: used.color })),
  },
  { name: 'Colours of this job', colours: swatches.value },
  { name: 'From the pictures here', colours: (atHand.value?.pictures ?? []).map((color) => ({ tint: color, color, name: color })) },
  { name: 'Suggested', colours: (atHand.value?.suggested ?? []).map((color) => ({ tint: color, color, name: color })) },
  { name: 'Darker and lighter', colours: (atHand.value?.steps ?? []).map((color) => ({ tint: color, color, name: color })) },
])

/** A colour from anything that is seen on the sheet. */
function fromSheet() {
  open.value = false
  bench.point({
    say: 'Move the loupe over the sheet and press to take the colour under its middle.',
    what: 'colour',
    take: (color) => emit('done', color),
  })
}

/** Where the free choice starts while there is no colour. */
const START = '#888888'

/** The panel gives its square of two values as one slider with pairs of numbers, which no reader can read: one of the two is given. */
const panel = ref<HTMLElement | null>(null)
function single() {
  for (const slider of panel.value?.querySelectorAll('[role="slider"]') ?? []) {
    for (const name of ['aria-valuemin', 'aria-valuemax', 'aria-valuenow']) {
      const value = slider.getAttribute(name)
      if (value?.includes(',')) slider.setAttribute(name, value.split(',')[0]!)
    }
  }
}
useMutationObserver(panel, single, { subtree: true, childList: true, attributes: true, attributeFilter: ['aria-valuenow'] })
function mend(found: unknown) {
  panel.value = (found as { $el?: HTMLElement } | null)?.$el ?? null
  single()
}

/** The panel also reports a colour it was given; only another one is a choice. */
function free(color: string | null | undefined) {
  if (color && color.toLowerCase() !== (shown.value ?? START).toLowerCase()) emit('live', color.toLowerCase())
}
function take(tint: Tint) {
  emit('done', tint)
  open.value = false
}
function takeNone() {
  emit('none')
  open.value = false
}
</script>

<template>
  <div class="pick">
    <span class="label">{{ label }}</span>
    <ElPopover
      v-model:visible="open"
      trigger="click"
      placement="left-start"
      :width="338"
      :persistent="false"
      :show-arrow="false"
      popper-class="colour-popper">
      <template #reference>
        <button class="chip" :aria-label="`${label}: ${name}`" :aria-expanded="open">
          <i class="checks"><b :style="{ background: shown ?? 'transparent' }" /></i>
          <span>{{ name }}</span>
        </button>
      </template>
      <div class="choose" @keydown.stop @keydown.escape="open = false">
        <div v-for="group in groups.filter((entry) => entry.colours.length)" :key="group.name" class="group">
          <h3>{{ group.name }}</h3>
          <ul>
            <li v-for="swatch in group.colours" :key="swatch.tint">
              <button
                :style="{ background: swatch.color }"
                :aria-pressed="swatch.tint === tint"
                :aria-label="swatch.name"
                :title="swatch.name"
                @click="take(swatch.tint)" />
            </li>
            <li v-if="noneLabel && group.name === 'Colours of this job'">
              <button class="none" :aria-label="noneLabel" :title="noneLabel" :aria-pressed="tint === null" @click="takeNone" />
            </li>
          </ul>
        </div>
        <button v-if="bench.sideId" class="act" @click="fromSheet"><Pipette :size="14" />From the sheet, by the pixel</button>
        <h3>A colour of its own</h3>
        <ElColorPickerPanel :ref="mend" :model-value="shown ?? START" :border="false" :validate-event="false" @update:model-value="free" />
        <label class="hex"
          ><span>Code</span
          ><DraftField :value="shown ?? ''" :aria-invalid="wrong ? 'true' : undefined" aria-label="Colour code" @done="type"
        /></label>
        <p v-if="wrong" class="wrong" role="alert">{{ wrong }} The last good colour stays.</p>
      </div>
    </ElPopover>
  </div>
</template>

<style scoped>
.pick {
  display: grid;
  grid-template-columns: 62px 1fr;
  align-items: center;
  gap: 12px;
}

.label {
  color: var(--ink-3);
  font-size: var(--text-1);
}

.chip {
  display: flex;
  align-items: center;
  gap: 8px;
  width: 100%;
  height: 30px;
  padding: 0 6px;
  border: 1px solid var(--rule);
  border-radius: 3px;
  background: var(--paper);
  text-align: left;
}

.chip:hover {
  border-color: var(--rule-strong);
}

.chip span {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.chip i {
  display: block;
  width: 20px;
  height: 20px;
  flex: none;
  box-shadow: 0 0 0 1px var(--rule-strong);
}

.chip b {
  display: block;
  width: 100%;
  height: 100%;
}

.choose {
  display: grid;
  gap: 8px;
}

.group {
  display: grid;
  grid-template-columns: 92px 1fr;
  align-items: start;
  gap: 8px;
}

.group h3 {
  padding-top: 3px;
}

ul {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}

.group li button {
  display: block;
  width: 24px;
  height: 24px;
  box-shadow: 0 0 0 1px rgb(33 30 26 / 0.25);
}

.group li button[aria-pressed='true'] {
  outline: 2px solid var(--ink);
  outline-offset: 2px;
}

.none {
  background: linear-gradient(to top right, transparent calc(50% - 1px), var(--ink) 0 calc(50% + 1px), transparent 0), #fff;
}

.hex {
  display: grid;
  grid-template-columns: 50px 1fr;
  align-items: center;
}
</style>

<style>
.colour-popper .el-color-picker-panel {
  padding: 0;
  background: none;
}

.colour-popper .el-color-picker-panel__footer {
  display: none;
}
</style>
