<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { ref, watch } from 'vue'
import { api } from '../api/client'
import type { Piece } from '../generated/types'
import { showFormat } from '../measures'
import { useBench } from '../stores/bench'

/** All pieces of the job as small live sheets, each side of each. */
const bench = useBench()

/** Pictures are asked for once a change has come to rest. */
const settled = ref<Record<string, number>>({ ...bench.stamps })
const settle = useDebounceFn(() => { settled.value = { ...bench.stamps } }, 350)
watch(() => bench.stamps, (now) => {
  if (Object.keys(now).some((id) => !(id in settled.value))) settled.value = { ...now, ...settled.value }
  void settle()
}, { deep: true })

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
            <img class="checks" :style="size(piece)" :src="api.sheetPicture(bench.job!.id, side.id, 256, settled[piece.id] ?? 0)" alt="" draggable="false" />
          </button>
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
