<script setup lang="ts">
import { ElColorPickerPanel, ElPopover } from 'element-plus'
import { computed, ref } from 'vue'
import { ApiProblem, api } from '../../api/client'
import type { Tint } from '../../generated/types'
import { useBench } from '../../stores/bench'

/** A colour: one of the job's shared colours, or one of its own. `live` follows the hand, `done` comes once. */
const props = defineProps<{ label: string; tint: Tint | null; noneLabel?: string }>()
const emit = defineEmits<{ live: [tint: Tint]; done: [tint: Tint]; none: [] }>()

const bench = useBench()
const open = ref(false)
const wrong = ref('')

const swatches = computed(() => Object.entries(bench.job?.swatches ?? {}).flatMap(([id, swatch]) => (swatch ? [{ tint: `@${id}`, ...swatch }] : [])))
const shown = computed(() => {
  if (!props.tint) return null
  return props.tint.startsWith('@') ? (bench.job?.swatches[props.tint.slice(1)]?.color ?? '#888888') : props.tint
})
const name = computed(() => {
  if (!props.tint) return props.noneLabel ?? 'none'
  return swatches.value.find((swatch) => swatch.tint === props.tint)?.name ?? shown.value
})

async function type(event: Event) {
  const field = event.target as HTMLInputElement
  try {
    emit('done', await api.colour(field.value))
    wrong.value = ''
  } catch (error) {
    wrong.value = error instanceof ApiProblem ? error.message : 'That is not a colour.'
    field.value = shown.value ?? ''
  }
}

/** Where the free choice starts while there is no colour. */
const START = '#888888'

/** The panel also reports a colour it was given; only another one is a choice. */
function free(color: string | null | undefined) {
  if (color && color.toLowerCase() !== (shown.value ?? START).toLowerCase()) emit('live', color.toLowerCase())
}
</script>

<template>
  <div class="pick">
    <span class="label">{{ label }}</span>
    <ElPopover v-model:visible="open" trigger="click" placement="left-start" :width="338" :persistent="false" :show-arrow="false" popper-class="colour-popper">
      <template #reference>
        <button class="chip" :aria-label="`${label}: ${name}`" :aria-expanded="open">
          <i class="checks"><b :style="{ background: shown ?? 'transparent' }" /></i>
          <span>{{ name }}</span>
        </button>
      </template>
      <div class="choose" @keydown.stop @keydown.escape="open = false">
        <h3>Colours of this job</h3>
        <ul>
          <li v-for="swatch in swatches" :key="swatch.tint">
            <button :style="{ background: swatch.color }" :aria-pressed="swatch.tint === tint" :aria-label="swatch.name" :title="swatch.name" @click="emit('done', swatch.tint); open = false" />
          </li>
          <li v-if="noneLabel"><button class="none" :aria-label="noneLabel" :title="noneLabel" :aria-pressed="tint === null" @click="emit('none'); open = false" /></li>
        </ul>
        <h3>A colour of its own</h3>
        <ElColorPickerPanel :model-value="shown ?? START" :border="false" :validate-event="false" @update:model-value="free" />
        <label class="hex"><span>Code</span><input class="field" :value="shown ?? ''" :aria-invalid="wrong ? 'true' : undefined" aria-label="Colour code" spellcheck="false" @change="type" /></label>
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
  box-shadow: 0 0 0 1px rgb(33 30 26 / 0.25);
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

ul {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}

li button {
  display: block;
  width: 30px;
  height: 30px;
  box-shadow: 0 0 0 1px rgb(33 30 26 / 0.25);
}

li button[aria-pressed='true'] {
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
