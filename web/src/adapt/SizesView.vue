<script setup lang="ts">
import { ElRadioButton, ElRadioGroup } from 'element-plus'
import { useLocalStorage } from '@vueuse/core'
import { computed, ref } from 'vue'
import BenchBar from '../bench/BenchBar.vue'
import PlaceList from '../compose/PlaceList.vue'
import type { PlaceEntry } from '../generated/types'
import { useBench } from '../stores/bench'
import { useNotices } from '../stores/notices'
import { useShelf } from '../stores/shelf'
import { useOpenJob } from '../stores/use-open-job'
import AddStrip from './AddStrip.vue'
import PieceCard from './PieceCard.vue'
import WallSheet from './WallSheet.vue'
import { useWall } from './use-wall'

/** All sizes of a job on one wall: added, compared, arranged. */
const props = defineProps<{ job: string }>()
const bench = useBench()
const notices = useNotices()
const shelf = useShelf()

useOpenJob(() => props.job)

const scale = useLocalStorage<'height' | 'true'>('vatman-wall', 'height')
const wall = useWall(scale)
const pieces = computed(() => bench.job?.pieces ?? [])

/** Places that are being looked at before they are added. */
const wanted = ref<PlaceEntry[]>([])
const there = computed(() => pieces.value.map((piece) => piece.place ?? ''))

function toggle(place: PlaceEntry) {
  wanted.value = wanted.value.some((other) => other.id === place.id)
    ? wanted.value.filter((other) => other.id !== place.id)
    : [...wanted.value, place]
}

async function add(ways: Record<string, number>) {
  const places = wanted.value.map((place) => ({ place: place.id, ...(ways[place.id] ? { way: ways[place.id]! } : {}) }))
  const before = new Set(pieces.value.map((piece) => piece.id))
  // Many are added a few at a time, as one step.
  const gesture = crypto.randomUUID()
  const atOnce = shelf.kept.at_once || places.length
  for (let at = 0; at < places.length; at += atOnce) {
    if (!(await bench.act({ act: 'addPieces', places: places.slice(at, at + atOnce) }, gesture, false))) return
  }
  wanted.value = []
  const made = pieces.value.filter((piece) => !before.has(piece.id))
  if (made[0]) await bench.show(made[0].sides[0]!.id)
  notices.say(made.length === 1 ? `“${made[0]!.name}” was added.` : `${made.length} sizes were added.`)
}
</script>

<template>
  <div class="sizes">
    <BenchBar step="sizes" :job="job" />
    <main v-if="bench.job">
      <section class="panel" aria-labelledby="further">
        <h2 id="further">Where else will it go?</h2>
        <PlaceList :chosen="wanted" :there="there" @toggle="toggle" />
      </section>
      <section class="wall scroll" aria-labelledby="wall">
        <AddStrip v-if="wanted.length" :places="wanted" @leave="toggle" @add="add" />
        <div class="head">
          <h1 id="wall">{{ pieces.length === 1 ? 'One size' : `${pieces.length} sizes` }}</h1>
          <ElRadioGroup v-model="scale" size="small" aria-label="How they are shown">
            <ElRadioButton value="height">Equal height</ElRadioButton>
            <ElRadioButton value="true">True scale</ElRadioButton>
          </ElRadioGroup>
        </div>
        <ul>
          <li v-for="piece in pieces" :key="piece.id">
            <WallSheet :piece="piece" :box="wall.box(piece)" :findings="wall.findings.value.filter((one) => one.piece === piece.id)" />
          </li>
        </ul>
      </section>
      <PieceCard v-if="bench.piece" :piece="bench.piece" :findings="wall.findings.value.filter((one) => one.piece === bench.piece?.id)" />
    </main>
  </div>
</template>

<style scoped>
.sizes {
  height: 100%;
  display: grid;
  grid-template-rows: var(--bar) minmax(0, 1fr);
}

main {
  display: grid;
  grid-template-columns: 248px minmax(0, 1fr) var(--card);
  min-height: 0;
}

.panel {
  display: flex;
  flex-direction: column;
  gap: 10px;
  min-height: 0;
  padding: 18px 16px 0;
  background: var(--paper);
  border-right: 1px solid var(--rule);
}

.wall {
  min-height: 0;
  padding: 18px 24px 40px;
}

.head {
  display: flex;
  align-items: center;
  justify-content: space-between;
  margin-bottom: 18px;
}

.wall ul {
  display: flex;
  flex-wrap: wrap;
  align-items: flex-end;
  gap: 28px 26px;
}

.wall li {
  min-width: 0;
}
</style>
