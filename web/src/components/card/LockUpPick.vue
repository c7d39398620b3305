<script setup lang="ts">
import { ElPopover } from 'element-plus'
import { ref, watch } from 'vue'
import { api } from '../../api/client'
import type { LockUpCard } from '../../generated/types'
import { useBench, type Plain } from '../../stores/bench'
import { useNotices } from '../../stores/notices'

/** All arrangements of a phrase side by side, in its own words, type and colours. */
const props = defineProps<{ plain: Plain }>()
const bench = useBench()
const notices = useNotices()
const open = ref(false)
const plainOnly = ref(false)
const sheets = ref<LockUpCard[]>([])

async function gather() {
  sheets.value = []
  if (!bench.job) return
  try {
    sheets.value = await api.lockUps(bench.job.id, props.plain.item.id)
  } catch (error) {
    notices.report(error)
  }
}
watch(open, (now) => { if (now) void gather() })

const choose = (number: number | null) => bench.act({ act: 'changeType', items: [props.plain.item.id], change: { lockUp: number } })

const box = ({ frame }: LockUpCard) => {
  const edge = Math.max(frame.w, frame.h) * 0.04
  return `${frame.x - edge} ${frame.y - edge} ${frame.w + 2 * edge} ${frame.h + 2 * edge}`
}
</script>

<!-- eslint-disable vue/no-v-html -- the fragments are written by our own server from a closed scene, never by people -->
<template>
  <ElPopover v-model:visible="open" trigger="click" placement="left" :width="520" :persistent="false" :show-arrow="false">
    <template #reference>
      <button class="act arrange" :aria-expanded="open">{{ plain.look.type?.lockUp ? `Arrangement ${plain.look.type.lockUp}` : 'Arrange as one block' }}</button>
    </template>
    <div class="contact" @keydown.stop @keydown.escape="open = false">
      <header>
        <h3>Arrangements of your words</h3>
        <label><input v-model="plainOnly" type="checkbox" /> without rules</label>
        <button class="act" :disabled="!plain.look.type?.lockUp" @click="choose(null); open = false">None</button>
      </header>
      <ul>
        <li v-for="sheet in sheets.filter((entry) => entry.plain || !plainOnly)" :key="sheet.number">
          <button :aria-pressed="plain.look.type?.lockUp === sheet.number" :aria-label="`Arrangement ${sheet.number}`" @click="choose(sheet.number)">
            <svg :viewBox="box(sheet)" aria-hidden="true"><g v-html="sheet.svg" /></svg>
            <span>{{ sheet.number }}</span>
          </button>
        </li>
      </ul>
    </div>
  </ElPopover>
</template>

<style scoped>
header {
  display: flex;
  align-items: center;
  gap: 12px;
  margin-bottom: 10px;
}

header h3 {
  flex: 1;
}

ul {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: 8px;
  height: 452px;
  align-content: start;
  overflow: auto;
}

li button {
  position: relative;
  display: block;
  width: 100%;
  height: 104px;
  padding: 6px;
  border: 1px solid var(--rule);
  border-radius: 3px;
  /* Neutral, so that both light and dark letters show. */
  background: #b9b6b0;
}

li button[aria-pressed='true'] {
  outline: 2px solid var(--ink);
}

li svg {
  width: 100%;
  height: 100%;
}

li span {
  position: absolute;
  right: 4px;
  bottom: 2px;
  font-size: 11px;
  color: #23201d;
}
</style>
