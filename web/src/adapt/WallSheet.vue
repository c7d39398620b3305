<script setup lang="ts">
import { Hand } from '@lucide/vue'
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import { api } from '../api/client'
import type { Finding, Item, Piece, Side } from '../generated/types'
import { foldsOf, showFormat } from '../measures'
import { useBench } from '../stores/bench'
import { useLive } from '../stores/live'

/** One piece on the wall: each of its sides, live, with what is the same as what is selected outlined. */
const props = defineProps<{ piece: Piece; box: { width: number; height: number }; findings: Finding[] }>()
const bench = useBench()
const live = useLive()
const router = useRouter()

const chosen = computed(() => bench.piece?.id === props.piece.id)
/** Of what is selected somewhere, what it shares. */
const kins = computed(() => new Set(bench.selected.map((one) => one.item.kin)))
const same = (side: Side) => side.items.filter((item) => kins.value.has(item.kin))
const byHand = computed(() => props.piece.sides.some((side) => side.items.some((item) => item.place.byHand)))
const width = computed(() => Math.min(Math.ceil((props.box.width * 2) / 64) * 64, 1_024))

function outline(item: Item) {
  const { rect, turn } = item.place.at
  const share = (length: number, whole: number) => `${(length / whole) * 100}%`
  const { w, h } = props.piece.format.size
  return {
    left: share(rect.x, w),
    top: share(rect.y, h),
    width: share(rect.w, w),
    height: share(rect.h, h),
    transform: `rotate(${turn / 1_000_000}deg)`,
  }
}

function folds(side: number) {
  const { level, at } = foldsOf(props.piece.format, side % 2 === 1)
  const { w, h } = props.piece.format.size
  return at.map((line) =>
    level ? { top: `${(line / h) * 100}%`, left: '0', right: '0' } : { left: `${(line / w) * 100}%`, top: '0', bottom: '0' },
  )
}

async function pick(event: MouseEvent, side: Side) {
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect()
  const { w, h } = props.piece.format.size
  // Keys press in the middle of nowhere.
  const at = event.detail
    ? await api
        .itemAt(bench.job!.id, side.id, ((event.clientX - box.left) / box.width) * w, ((event.clientY - box.top) / box.height) * h)
        .catch(() => null)
    : null
  await bench.show(side.id)
  bench.selection = at ? [at] : []
}

function open(side: Side) {
  void bench.show(side.id).then(() => router.push({ name: 'bench', params: { job: bench.job!.id } }))
}
</script>

<template>
  <figure class="piece" :class="{ chosen }" :data-piece="piece.name">
    <div class="sides">
      <button
        v-for="(side, at) in piece.sides"
        :key="side.id"
        class="sheet"
        :aria-label="piece.sides.length > 1 ? `${piece.name}, ${side.name}` : piece.name"
        :aria-pressed="bench.sideId === side.id"
        @click="pick($event, side)"
        @dblclick="open(side)"
        @keydown.enter.shift="open(side)">
        <img
          :class="{ checks: !side.ground }"
          :style="{ width: `${box.width}px`, height: `${box.height}px` }"
          :src="api.sheetPicture(bench.job!.id, side.id, width, `${bench.stamps[piece.id] ?? 0}-${live.faces}`)"
          alt=""
          draggable="false" />
        <i v-for="(line, n) in folds(at)" :key="`fold ${n}`" class="fold" :style="line" />
        <i v-for="item in same(side)" :key="item.id" class="same" :style="outline(item)" />
      </button>
    </div>
    <figcaption>
      <b>{{ piece.name }}</b>
      <span class="quiet">{{ showFormat(piece.format) }}</span>
      <span v-if="byHand" class="hand" data-tip="Something was placed by hand here"><Hand :size="12" aria-label="placed by hand" /></span>
      <RouterLink v-if="findings.length" class="found" :to="{ name: 'check', params: { job: bench.job!.id } }"
        >{{ findings.length }} to look at</RouterLink
      >
    </figcaption>
  </figure>
</template>

<style scoped>
.piece {
  display: grid;
  gap: 6px;
  margin: 0;
}

.sides {
  display: flex;
  gap: 6px;
  align-items: flex-end;
}

.sheet {
  position: relative;
  padding: 0;
  outline-offset: 5px;
}

.sheet img {
  display: block;
  box-shadow:
    0 0 0 1px rgb(33 30 26 / 0.16),
    0 2px 8px rgb(33 30 26 / 0.16);
}

.sheet[aria-pressed='true'] {
  outline: 2px solid var(--ink);
}

.fold {
  position: absolute;
  border: 0 dashed rgb(33 30 26 / 0.4);
  border-width: 1px 0 0 1px;
  pointer-events: none;
}

.same {
  position: absolute;
  outline: 1.5px solid var(--mark-light);
  box-shadow: inset 0 0 0 1.5px var(--mark-dark);
  pointer-events: none;
}

figcaption {
  display: flex;
  align-items: center;
  gap: 8px;
  max-width: 100%;
  font-size: var(--text-1);
  white-space: nowrap;
}

.chosen figcaption b {
  font-weight: 700;
}

.hand {
  display: grid;
  color: var(--ink-2);
}

.found {
  color: var(--madder-deep);
  text-underline-offset: 3px;
}
</style>
