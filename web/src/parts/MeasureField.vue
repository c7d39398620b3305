<script setup lang="ts">
import { ElInput } from 'element-plus'
import { nextTick, ref, watch } from 'vue'
import { ApiProblem, api } from '../api/client'
import type { Unit } from '../generated/types'
import { showLength } from '../measures'

/** A length with its unit; takes units and sums, and keeps the last good value where what is typed makes no sense. */
const props = defineProps<{
  label: string
  value: number
  unit: Unit
  ppi: number
  whole?: number
  short?: string
  least?: number
  disabled?: boolean
}>()
const emit = defineEmits<{ change: [fine: number] }>()

const typed = ref('')
const wrong = ref('')
const field = ref<InstanceType<typeof ElInput>>()
let editing = false

const shown = () => `${showLength(props.value, props.unit, props.ppi)} ${props.unit}`
watch(
  () => [props.value, props.unit, props.ppi],
  () => {
    if (!editing) typed.value = shown()
  },
  { immediate: true },
)

function begin() {
  editing = true
  void nextTick(() => field.value?.select())
}

/** Enter also takes the focus away: what is typed is read once. */
let reading = false

async function commit() {
  if (!editing || reading) return
  if (typed.value.trim() === shown()) return leave()
  reading = true
  try {
    const fine = await api.measure({ text: typed.value, unit: props.unit, ppi: props.ppi, ...(props.whole ? { whole: props.whole } : {}) })
    if (props.least !== undefined && fine < props.least) {
      wrong.value = props.least > 0 ? 'This has to be more than 0.' : 'This cannot be negative.'
      typed.value = shown()
      editing = false
      return
    }
    leave()
    if (fine !== props.value) emit('change', fine)
  } catch (error) {
    wrong.value = error instanceof ApiProblem ? error.message : 'This is not a length.'
    typed.value = shown()
    editing = false
  } finally {
    reading = false
  }
}

function leave() {
  editing = false
  wrong.value = ''
  typed.value = shown()
}

function key(event: Event | KeyboardEvent) {
  event.stopPropagation()
  if (!(event instanceof KeyboardEvent)) return
  if (event.key === 'Enter') {
    void commit()
    field.value?.blur()
  }
  if (event.key === 'Escape') {
    leave()
    field.value?.blur()
  }
}
</script>

<template>
  <label class="measure">
    <span>{{ short ?? label }}</span>
    <ElInput
      ref="field"
      v-model="typed"
      :aria-label="label"
      :aria-invalid="wrong ? 'true' : undefined"
      :disabled="disabled ?? false"
      :spellcheck="false"
      autocomplete="off"
      @focus="begin"
      @blur="commit"
      @keydown="key" />
    <em v-if="wrong" class="wrong" role="alert">{{ wrong }} The last good value stays.</em>
  </label>
</template>

<style scoped>
.measure {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  align-items: center;
  gap: 2px 6px;
}

.measure > span {
  color: var(--ink-3);
  font-size: var(--text-1);
  min-width: 12px;
}

.wrong {
  grid-column: 1 / -1;
  font-style: normal;
}
</style>
