<script setup lang="ts">
import { CircleAlert, CircleCheck } from '@lucide/vue'
import { useDebounceFn } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { ApiProblem, api } from '../api/client'
import type { Reading, Repair, Verdict } from '../generated/types'
import { useBench, type Plain } from '../stores/bench'
import { useNotices } from '../stores/notices'

/** How the words read on what really lies behind them, with repairs. */
const props = defineProps<{ plain: Plain }>()
const bench = useBench()
const notices = useNotices()
const reading = ref<Reading | null>(null)

const measure = useDebounceFn(async () => {
  const id = props.plain.item.id
  if (!bench.job) return
  try {
    const found = await api.reading(bench.job.id, id)
    if (id === props.plain.item.id) reading.value = found
  } catch (error) {
    reading.value = null
    if (!(error instanceof ApiProblem) || error.problem.status !== 422) notices.report(error)
  }
}, 350)
watch(() => [props.plain.item.id, bench.revision], measure, { immediate: true })

const verdicts: Record<Verdict, string> = { good: 'reads well', weak: 'reads only because it is large', poor: 'hard to read' }
const labels: Record<Repair, string> = { recolour: 'Nearest colour that reads', panel: 'Panel behind', shade: 'Shade the picture' }
const verdict = computed(() => {
  const found = reading.value
  if (!found) return ''
  return found.verdict === 'weak' && found.wanted > 3 ? 'not quite enough for type of this size' : verdicts[found.verdict]
})
</script>

<template>
  <div v-if="reading" class="contrast" :class="reading.verdict" aria-live="polite">
    <p>
      <CircleCheck v-if="reading.verdict === 'good'" :size="15" aria-hidden="true" /><CircleAlert v-else :size="15" aria-hidden="true" />
      <span>Contrast <b>{{ reading.ratio.toFixed(1) }} : 1</b>, {{ verdict }}</span>
    </p>
    <div v-if="reading.repairs.length" class="repairs">
      <button v-for="repair in reading.repairs" :key="repair" class="act" @click="bench.act({ act: 'mend', item: plain.item.id, repair })">{{ labels[repair] }}</button>
    </div>
  </div>
</template>

<style scoped>
.contrast p {
  display: flex;
  align-items: center;
  gap: 6px;
  font-size: var(--text-1);
  color: var(--ink-2);
}

.contrast svg {
  flex: none;
}

.contrast.poor p {
  color: var(--madder-deep);
}

.repairs {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  margin-top: 6px;
}

.repairs .act {
  height: 26px;
  padding: 0 8px;
  font-size: var(--text-1);
}
</style>
