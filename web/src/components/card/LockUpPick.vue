<script setup lang="ts">
import { ElPopover } from 'element-plus'
import { ref, watch } from 'vue'
import type { StageItem } from '../../generated/types'
import { useBench, type Plain } from '../../stores/bench'

/** All arrangements of a phrase side by side, in its own words, type and colours. */
const props = defineProps<{ plain: Plain }>()
const bench = useBench()
const open = ref(false)
const plainOnly = ref(false)
const sheets = ref<{ number: number; bare: boolean; item: StageItem }[]>([])

const COUNT = 16
/** Arrangements with rules besides the letters. */
const RULED = new Set([5, 7, 8, 10, 12, 14, 15, 16])

async function gather() {
  sheets.value = []
  const p = props.plain
  const type = p.look.type
  if (!type) return
  for (let number = 1; number <= COUNT && open.value; number++) {
    const stage = await bench.rehearse({ act: 'edit', command: { do: 'setLook', target: bench.lookTarget(p), look: { ...p.look, type: { ...type, lockUp: number, curve: null } } } })
    const item = stage?.items.find((drawn) => drawn.id === p.item.id) ?? (type.lockUp === number ? bench.drawn.get(p.item.id) : undefined)
    // Identities inside the picture are its own: the same item is on the stage too.
    if (item) sheets.value.push({ number, bare: !RULED.has(number), item: { ...item, svg: item.svg.replaceAll(p.item.id, `${p.item.id}-try${number}`) } })
  }
}
watch(open, (now) => { if (now) void gather() })

function choose(number: number | null) {
  const p = props.plain
  if (!p.look.type) return
  void bench.edit({ do: 'setLook', target: bench.lookTarget(p), look: { ...p.look, type: { ...p.look.type, lockUp: number, ...(number ? { curve: null } : {}) } } })
}

const box = (item: StageItem) => {
  const edge = Math.max(item.frame.w, item.frame.h) * 0.04
  return `${item.frame.x - edge} ${item.frame.y - edge} ${item.frame.w + 2 * edge} ${item.frame.h + 2 * edge}`
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
        <li v-for="sheet in sheets.filter((entry) => entry.bare || !plainOnly)" :key="sheet.number">
          <button :aria-pressed="plain.look.type?.lockUp === sheet.number" :aria-label="`Arrangement ${sheet.number}`" @click="choose(sheet.number)">
            <svg :viewBox="box(sheet.item)" aria-hidden="true"><g v-html="sheet.item.svg" /></svg>
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
