<script setup lang="ts">
import { ElCheckbox, ElSkeleton } from 'element-plus'
import { ref, watch } from 'vue'
import { api } from '../api/client'
import type { LockUpCard } from '../generated/types'
import { useBench, type Plain } from '../stores/bench'
import { useNotices } from '../stores/notices'
import ChooserPanel from '../parts/ChooserPanel.vue'

/** All arrangements of a phrase, large, in its own words, type and colours, on its own ground. */
const props = defineProps<{ plain: Plain }>()
const bench = useBench()
const notices = useNotices()
const plainOnly = ref(false)
const sheets = ref<LockUpCard[]>([])
const waiting = ref(true)

const words = () => (props.plain.content.kind === 'words' ? props.plain.content.text.map((run) => run.text).join('') : '')
watch(
  () => [props.plain.item.id, words(), props.plain.look.type?.family, props.plain.look.fill],
  async () => {
    if (!bench.job) return
    try {
      sheets.value = await api.lockUps(bench.job.id, props.plain.item.id)
    } catch (error) {
      notices.report(error)
    } finally {
      waiting.value = false
    }
  },
  { immediate: true },
)

const change = (number: number | null) => ({ act: 'changeType' as const, items: [props.plain.item.id], change: { lockUp: number } })
const look = (number: number) => void bench.tryOut(change(number))

const box = ({ frame }: LockUpCard) => {
  const edge = Math.max(frame.w, frame.h) * 0.05
  return `${frame.x - edge} ${frame.y - edge} ${frame.w + 2 * edge} ${frame.h + 2 * edge}`
}
/** Each in the shape that suits it, no higher than it is wide by half. */
const shape = ({ frame }: LockUpCard) => ({
  aspectRatio: `${Math.max(frame.w * 1.1, frame.h * 0.9)} / ${Math.max(frame.h * 1.1, frame.w * 0.28)}`,
})
</script>

<!-- eslint-disable vue/no-v-html -- the fragments are written by our own server from a closed scene, never by people -->
<template>
  <ChooserPanel title="As one block">
    <div class="row">
      <ElCheckbox v-model="plainOnly" label="Letters only" />
      <button class="act" :disabled="!plain.look.type?.lockUp" @click="bench.act(change(null))">Plain lines again</button>
    </div>
    <ElSkeleton v-if="waiting" :rows="6" animated />
    <ul>
      <li v-for="sheet in sheets.filter((entry) => entry.plain || !plainOnly)" :key="sheet.number">
        <button
          :aria-pressed="plain.look.type?.lockUp === sheet.number"
          :aria-label="`Arrangement ${sheet.number}`"
          :style="[shape(sheet), { background: sheet.ground }]"
          @pointerenter="look(sheet.number)"
          @click="bench.act(change(sheet.number))">
          <svg :viewBox="box(sheet)" aria-hidden="true"><g v-html="sheet.svg" /></svg>
        </button>
      </li>
    </ul>
  </ChooserPanel>
</template>

<style scoped>
.row {
  display: flex;
  align-items: center;
  justify-content: space-between;
  margin-bottom: 10px;
}

ul {
  display: grid;
  gap: 10px;
}

li button {
  display: block;
  width: 100%;
  padding: 8px;
  border: 1px solid var(--rule);
  border-radius: 3px;
}

li button:hover {
  border-color: var(--ink);
}

li button[aria-pressed='true'] {
  outline: 2px solid var(--ink);
  outline-offset: 1px;
}

svg {
  display: block;
  width: 100%;
  height: 100%;
}
</style>
