<script setup lang="ts">
import { ChevronsLeft, Copy, Plus, Trash2 } from '@lucide/vue'
import { useDebounceFn } from '@vueuse/core'
import { ref, watch } from 'vue'
import { api } from '../api/client'
import type { Piece } from '../generated/types'
import { showFormat } from '../measures'
import { useBench } from '../stores/bench'
import { useLive } from '../stores/live'

/** All pieces of the job as small live sheets, each side of each. */
const bench = useBench()
const live = useLive()

/** Pictures are asked for once a change has come to rest. */
const settled = ref<Record<string, number>>({ ...bench.stamps })
const settle = useDebounceFn(() => { settled.value = { ...bench.stamps } }, 350)
watch(() => bench.stamps, (now) => {
  if (Object.keys(now).some((id) => !(id in settled.value))) settled.value = { ...now, ...settled.value }
  void settle()
}, { deep: true })

async function addSide(copy: boolean) {
  const before = new Set(bench.piece?.sides.map((side) => side.id))
  if (!bench.sideId || !(await bench.act({ act: 'addSide', after: bench.sideId, copy }))) return
  const added = bench.piece?.sides.find((side) => !before.has(side.id))
  if (added) await bench.show(added.id)
}

async function removeSide() {
  const gone = bench.sideId
  const next = bench.piece?.sides.find((side) => side.id !== gone)
  if (!gone || !next) return
  await bench.show(next.id)
  await bench.act({ act: 'removeSide', side: gone })
}

const HIGH = 62
function size(piece: Piece) {
  const ratio = piece.format.size.w / piece.format.size.h
  const width = Math.min(HIGH * ratio, 128)
  return { width: `${width}px`, height: `${Math.max(width / ratio, 8)}px` }
}
</script>

<template>
  <footer class="rail" aria-label="Pieces of this job">
    <ul class="scroll">
      <li v-for="piece in bench.job?.pieces ?? []" :key="piece.id">
        <div class="sides">
          <button
            v-for="side in piece.sides"
            :key="side.id"
            class="sheet"
            :aria-label="`${piece.name}, ${side.name}`"
            :aria-current="side.id === bench.sideId ? 'true' : undefined"
            @click="bench.show(side.id)"
          >
            <img class="checks" :style="size(piece)" :src="api.sheetPicture(bench.job!.id, side.id, 256, `${settled[piece.id] ?? 0}-${live.faces}`)" alt="" draggable="false" />
          </button>
          <span v-if="piece.id === bench.piece?.id" class="more">
            <button class="tool" aria-label="Add a blank side" title="Add a blank side" @click="addSide(false)"><Plus :size="14" /></button>
            <button class="tool" aria-label="Copy this side" title="Copy this side" @click="addSide(true)"><Copy :size="13" /></button>
            <button v-if="piece.sides.length > 1" class="tool" aria-label="Move this side to the front" title="Move this side to the front" @click="bench.act({ act: 'moveSide', side: bench.sideId!, index: 0 })"><ChevronsLeft :size="14" /></button>
            <button v-if="piece.sides.length > 1" class="tool" aria-label="Remove this side" title="Remove this side" @click="removeSide"><Trash2 :size="13" /></button>
          </span>
        </div>
        <span class="name"><b>{{ piece.name }}</b> {{ showFormat(piece.format) }}</span>
      </li>
    </ul>
  </footer>
</template>

<style scoped>
.rail {
  height: var(--rail);
  background: var(--paper);
  border-top: 1px solid var(--rule);
}

ul {
  display: flex;
  gap: 22px;
  height: 100%;
  padding: 0 16px;
  overflow: auto hidden;
}

li {
  display: flex;
  flex-direction: column;
  justify-content: flex-end;
  gap: 4px;
  padding-bottom: 8px;
}

.sides {
  display: flex;
  align-items: flex-end;
  gap: 6px;
}

.sheet {
  padding: 3px;
  border: 2px solid transparent;
  border-radius: 2px;
}

.sheet:hover {
  border-color: var(--rule);
}

.sheet[aria-current] {
  border-color: var(--ink);
}

img {
  display: block;
  box-shadow: 0 0 0 1px rgb(33 30 26 / 0.18);
}

.more {
  display: grid;
  grid-template-columns: 24px 24px;
  gap: 1px;
}

.more .tool {
  width: 24px;
  height: 24px;
}

.name {
  font-size: 11px;
  color: var(--ink-3);
  white-space: nowrap;
}

.name b {
  color: var(--ink-2);
  font-weight: 600;
}
</style>
