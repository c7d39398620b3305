<script setup lang="ts">
import { CircleAlert, CircleCheck } from '@lucide/vue'
import { useDebounceFn } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { api } from '../api/client'
import type { Reading, Repair, Verdict } from '../generated/types'
import { useBench, type Plain } from '../stores/bench'
import { useNotices } from '../stores/notices'

/** How the words read on what really lies behind them, with repairs. */
const props = defineProps<{ plain: Plain }>()
const bench = useBench()
const notices = useNotices()
const reading = ref<Reading | null>(null)
/** Whether what is shown is of what is on the sheet now. */
const measured = ref(false)
let asked = 0

const hasWords = computed(() => props.plain.content.kind === 'words' && props.plain.content.text.some((run) => run.text.trim()))

async function measure() {
  const mine = ++asked
  const id = props.plain.item.id
  if (!bench.job || !hasWords.value) {
    reading.value = null
    measured.value = true
    return
  }
  try {
    const found = await api.reading(bench.job.id, id)
    if (mine !== asked) return
    reading.value = found
    measured.value = true
  } catch (error) {
    if (mine === asked) notices.report(error)
  }
}
const soon = useDebounceFn(measure, 30, { maxWait: 120 })
watch(
  () => [props.plain.item.id, bench.revision],
  ([id], before) => {
    measured.value = false
    if (id !== before?.[0]) reading.value = null
    void soon()
  },
  { immediate: true },
)

const verdicts: Record<Verdict, string> = { good: 'reads well', weak: 'reads only because it is large', poor: 'hard to read' }
const labels: Record<Repair, { name: string; tip: string }> = {
  recolour: { name: 'Recolour', tip: 'The nearest colour that reads' },
  panel: { name: 'Panel behind', tip: 'A panel behind the words, no denser than needed' },
  shade: { name: 'Shade', tip: 'What lies behind becomes darker or lighter' },
}
const verdict = computed(() => {
  const found = reading.value
  if (!found) return ''
  return found.verdict === 'weak' && found.wanted > 3 ? 'not quite enough for type of this size' : verdicts[found.verdict]
})
</script>

<template>
  <div v-if="hasWords" class="contrast" :class="measured ? reading?.verdict : ''" aria-live="polite">
    <p>
      <template v-if="measured && reading">
        <CircleCheck v-if="reading.verdict === 'good'" :size="15" aria-hidden="true" /><CircleAlert v-else :size="15" aria-hidden="true" />
        <span
          >Contrast <b>{{ reading.ratio.toFixed(1) }} : 1</b>, {{ verdict }}</span
        >
      </template>
      <span v-else-if="!measured" class="quiet">Contrast: measuring</span>
    </p>
    <div class="repairs" :class="{ stale: !measured }">
      <button
        v-for="repair in reading?.repairs ?? []"
        :key="repair"
        class="act"
        :data-repair="repair"
        :data-tip="labels[repair].tip"
        :disabled="!measured"
        @click="bench.act({ act: 'mend', item: plain.item.id, repair })">
        {{ labels[repair].name }}
      </button>
    </div>
  </div>
</template>

<style scoped>
/* Its place is always there: nothing below moves when the verdict comes. */
.contrast p {
  display: flex;
  min-height: 20px;
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
  gap: 4px;
  height: 26px;
  margin-top: 4px;
}

.repairs .act {
  height: 26px;
  padding: 0 8px;
  font-size: var(--text-1);
}
</style>
