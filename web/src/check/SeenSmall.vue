<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api } from '../api/client'
import type { Eyes, Piece, SeenCard } from '../generated/types'
import { FINE_UNITS_PER_INCH } from '../generated/types'
import { useBench } from '../stores/bench'
import { useLive } from '../stores/live'
import { useNotices } from '../stores/notices'

/** Every piece as wide as it is where people meet it, to all kinds of eyes beside each other. */
const bench = useBench()
const live = useLive()
const notices = useNotices()
const eyes = ref<Eyes[]>([])
const seen = ref<SeenCard[]>([])
const which = ref(0)

void api.eyes().then((all) => {
  eyes.value = all
}, notices.report)
watch(
  () => [bench.job?.id, bench.job?.pieces.length, bench.revision],
  async () => {
    if (bench.job) seen.value = await api.seen(bench.job.id).catch(() => seen.value)
  },
  { immediate: true },
)

/** The smallest first: there it is decided whether it still reads. */
const width = (piece: Piece) => seen.value.find((one) => one.piece === piece.id)?.width ?? 0
const pieces = computed(() => [...(bench.job?.pieces ?? [])].toSorted((a, b) => width(a) - width(b)))
/** What is met larger than this is shown as from further away. */
const WIDEST = 620

function size(piece: Piece) {
  const wide = Math.min((width(piece) / FINE_UNITS_PER_INCH) * 96, WIDEST)
  return { width: `${Math.max(wide, 8)}px`, aspectRatio: String(piece.format.size.w / piece.format.size.h) }
}

const says = (piece: Piece) => `${Math.round((width(piece) / FINE_UNITS_PER_INCH) * 25.4)} mm wide`
const matrix = (one: Eyes) => one.matrix.map((row) => `${row.join(' ')} 0 0`).join(' ') + ' 0 0 0 1 0'
const asked = (piece: Piece) => Math.min(Math.ceil((parseFloat(size(piece).width) * 2) / 64) * 64, 1_024)
</script>

<template>
  <div class="seen">
    <svg width="0" height="0" aria-hidden="true">
      <filter v-for="(one, i) in eyes" :id="`eyes-${i}`" :key="one.name" color-interpolation-filters="linearRGB">
        <feColorMatrix type="matrix" :values="matrix(one)" />
      </filter>
    </svg>
    <nav aria-label="To whose eyes">
      <button v-for="(one, i) in eyes" :key="one.name" :aria-pressed="which === i" @click="which = i">{{ one.name }}</button>
    </nav>
    <ul>
      <li v-for="piece in pieces" :key="piece.id">
        <img
          :style="{ ...size(piece), filter: which ? `url(#eyes-${which})` : 'none' }"
          :class="{ checks: !piece.sides[0]!.ground }"
          :src="api.sheetPicture(bench.job!.id, piece.sides[0]!.id, asked(piece), `${bench.stamps[piece.id] ?? 0}-${live.faces}`)"
          :alt="piece.name" />
        <span>{{ piece.name }}, {{ says(piece) }}</span>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.seen {
  display: grid;
  gap: 20px;
}

nav {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
}

nav button {
  padding: 4px 10px;
  border-radius: 2px;
  background: var(--paper);
  color: var(--ink-2);
}

nav button[aria-pressed='true'] {
  background: var(--ink);
  color: var(--paper);
}

ul {
  display: flex;
  flex-wrap: wrap;
  align-items: flex-end;
  gap: 24px;
}

li {
  display: grid;
  gap: 6px;
  max-width: 100%;
}

li span {
  color: var(--stage-ink);
  font-size: var(--text-1);
}

img {
  display: block;
}
</style>
