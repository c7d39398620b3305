<script setup lang="ts">
import { computed, ref } from 'vue'
import DraftField from './DraftField.vue'

/** A plain number of a range. What lies outside it, or is no number, is not taken; the field says why, and the last good value stays. */
const props = withDefaults(
  defineProps<{ label: string; value: number; least: number; most: number; unit?: string; whole?: boolean; digits?: number }>(),
  { unit: '', digits: 1 },
)
const emit = defineEmits<{ done: [value: number] }>()

const wrong = ref(false)
const shown = computed(() => {
  const digits = 10 ** props.digits
  const number = Math.round(props.value * digits) / digits
  return props.unit ? `${number}${props.unit === '°' ? '' : ' '}${props.unit}` : String(number)
})

function type(typed: string) {
  const bare = typed.replace(props.unit, '').replace(',', '.').trim()
  const value = Number(bare)
  wrong.value = !(
    bare &&
    Number.isFinite(value) &&
    value >= props.least &&
    value <= props.most &&
    (!props.whole || Number.isInteger(value))
  )
  if (!wrong.value) emit('done', value)
}
</script>

<template>
  <DraftField :value="shown" :aria-label="label" :aria-invalid="wrong ? 'true' : undefined" @done="type" />
  <em v-if="wrong" class="wrong" role="alert"
    >This is a {{ whole ? 'whole ' : '' }}number from {{ least }} to {{ most }}{{ unit === '°' ? '' : ' ' }}{{ unit }}. The last good value
    stays.</em
  >
</template>

<style scoped>
.wrong {
  grid-column: 1 / -1;
  font-style: normal;
}
</style>
