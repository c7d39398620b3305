<script setup lang="ts">
import { Columns2, Ellipsis } from '@lucide/vue'
import { ElMessageBox } from 'element-plus'
import { useDebounceFn } from '@vueuse/core'
import { ref, watch } from 'vue'
import { api } from '../api/client'
import type { Piece } from '../generated/types'
import { showFormat } from '../measures'
import { useBench } from '../stores/bench'
import { useLive } from '../stores/live'
import { useNotices } from '../stores/notices'
import ActMenu from '../parts/ActMenu.vue'
import { useOrder } from '../parts/use-order'

/** All pieces of the job as small live sheets, each side of each. */
const bench = useBench()
const live = useLive()
const notices = useNotices()

/** Pictures are asked for once a change has come to rest. */
const settled = ref<Record<string, number>>({ ...bench.stamps })
const settle = useDebounceFn(() => {
  settled.value = { ...bench.stamps }
}, 350)
watch(
  () => bench.stamps,
  (now) => {
    if (Object.keys(now).some((id) => !(id in settled.value))) settled.value = { ...now, ...settled.value }
    void settle()
  },
  { deep: true },
)

async function addSide(what: 'blank' | 'copy' | 'back') {
  const before = new Set(bench.piece?.sides.map((side) => side.id))
  if (
    !bench.sideId ||
    !(await bench.act(
      what === 'back' ? { act: 'addBack', after: bench.sideId } : { act: 'addSide', after: bench.sideId, copy: what === 'copy' },
    ))
  )
    return
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

type Deed =
  | 'blank'
  | 'back'
  | 'copy'
  | 'renameSide'
  | 'earlier'
  | 'later'
  | 'removeSide'
  | 'renamePiece'
  | 'pieceEarlier'
  | 'pieceLater'
  | 'removePiece'

function entries(piece: Piece): { value: Deed; name: string; off?: boolean; apart?: boolean }[] {
  const at = piece.sides.findIndex((side) => side.id === bench.sideId)
  const several = piece.sides.length > 1
  const pieces = bench.job?.pieces ?? []
  const place = pieces.findIndex((other) => other.id === piece.id)
  return [
    { value: 'blank', name: 'Add a blank side' },
    { value: 'back', name: 'Add a back with the details of the house' },
    { value: 'copy', name: 'Copy this side' },
    { value: 'renameSide', name: 'Rename this side…' },
    { value: 'earlier', name: 'Move this side earlier', off: at < 1 },
    { value: 'later', name: 'Move this side later', off: at === piece.sides.length - 1 },
    { value: 'removeSide', name: 'Remove this side', off: !several },
    { value: 'renamePiece', name: 'Rename this piece…', apart: true },
    { value: 'pieceEarlier', name: 'Move this piece earlier', off: place < 1 },
    { value: 'pieceLater', name: 'Move this piece later', off: place === pieces.length - 1 },
    { value: 'removePiece', name: 'Remove this piece', off: pieces.length < 2 },
  ]
}

/** Asks for a name; nothing where it was given up. */
async function ask(title: string, now: string): Promise<string | null> {
  const answer = await ElMessageBox.prompt('', title, {
    inputValue: now,
    inputPattern: /\S/,
    inputErrorMessage: 'A name has at least one letter.',
    confirmButtonText: 'Rename',
    cancelButtonText: 'Never mind',
  }).catch(() => null)
  return answer ? answer.value.trim() : null
}

async function run(what: Deed, piece: Piece) {
  const side = bench.side
  if (!side) return
  const at = piece.sides.findIndex((other) => other.id === side.id)
  if (what === 'blank' || what === 'copy' || what === 'back') await addSide(what)
  else if (what === 'earlier' || what === 'later')
    await bench.act({ act: 'moveSide', side: side.id, index: at + (what === 'earlier' ? -1 : 1) })
  else if (what === 'pieceEarlier' || what === 'pieceLater')
    await bench.act({
      act: 'movePiece',
      piece: piece.id,
      index: (bench.job?.pieces.findIndex((other) => other.id === piece.id) ?? 0) + (what === 'pieceEarlier' ? -1 : 1),
    })
  else if (what === 'removeSide') await removeSide()
  else if (what === 'renameSide') {
    const name = await ask('Name of the side', side.name)
    if (name) await bench.act({ act: 'renameSide', side: side.id, name })
  } else if (what === 'renamePiece') {
    const name = await ask('Name of the piece', piece.name)
    if (name) await bench.act({ act: 'renamePiece', piece: piece.id, name })
  } else {
    const next = bench.job?.pieces.find((other) => other.id !== piece.id)
    if (!next) return
    await bench.show(next.sides[0]!.id)
    if (await bench.act({ act: 'removePiece', piece: piece.id }))
      notices.say(`“${piece.name}” was removed.`, {
        while: () => !bench.job?.pieces.some((other) => other.id === piece.id),
        action: { label: 'Bring it back', run: () => void bench.act({ act: 'undo' }) },
      })
  }
}

/** Pieces change places by dragging, too. */
const list = ref<HTMLElement>()
useOrder(
  list,
  (from, to) => {
    const piece = bench.job?.pieces[from]
    if (piece) void bench.act({ act: 'movePiece', piece: piece.id, index: to })
  },
  'horizontal',
)

const HIGH = 62
function size(piece: Piece) {
  const ratio = piece.format.size.w / piece.format.size.h
  const width = Math.min(HIGH * ratio, 128)
  return { width: `${width}px`, height: `${Math.max(width / ratio, 8)}px` }
}
</script>

<template>
  <footer class="rail" aria-label="Pieces of this job">
    <ul ref="list" class="scroll">
      <li v-for="piece in bench.job?.pieces ?? []" :key="piece.id">
        <div class="sides">
          <button
            v-for="side in piece.sides"
            :key="side.id"
            class="sheet"
            :aria-label="`${piece.name}, ${side.name}`"
            :aria-current="side.id === bench.sideId ? 'true' : undefined"
            @click="bench.show(side.id)">
            <img
              class="checks"
              :style="size(piece)"
              :src="api.sheetPicture(bench.job!.id, side.id, 256, `${settled[piece.id] ?? 0}-${live.faces}`)"
              alt=""
              draggable="false" />
          </button>
          <ActMenu
            v-if="piece.id === bench.piece?.id"
            class="more"
            label="Sides and piece"
            tool
            :entries="entries(piece)"
            @done="run($event, piece)"
            ><Ellipsis :size="15"
          /></ActMenu>
          <button
            v-else
            class="tool aside"
            :aria-label="`Show “${piece.name}” beside the stage`"
            :aria-pressed="bench.beside === piece.id"
            data-tip="Beside the stage, for work"
            @click="bench.beside = bench.beside === piece.id ? null : piece.id">
            <Columns2 :size="14" />
          </button>
        </div>
        <span class="name"
          ><b>{{ piece.name }}</b> {{ showFormat(piece.format)
          }}{{ piece.sides.length > 1 && piece.id === bench.piece?.id ? `, ${bench.side?.name}` : '' }}</span
        >
      </li>
    </ul>
  </footer>
</template>

<style scoped>
.aside {
  opacity: 0;
}

li:hover .aside,
.aside:focus-visible,
.aside[aria-pressed='true'] {
  opacity: 1;
}

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

.more :deep(.tool) {
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
