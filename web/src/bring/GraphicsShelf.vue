<script setup lang="ts">
import { FileUp, Star } from '@lucide/vue'
import { useDebounceFn, useFileDialog, useLocalStorage } from '@vueuse/core'
import { ElInput, ElSegmented } from 'element-plus'
import { computed, onMounted, ref, watch, type Ref } from 'vue'
import { api } from '../api/client'
import type { GraphicCard, GraphicSet } from '../generated/types'
import { useBench } from '../stores/bench'
import { useNotices } from '../stores/notices'
import { useShelf } from '../stores/shelf'
import SwapSwitch from '../pictures/SwapSwitch.vue'

/** Vector graphics, found while typing; one that is chosen arrives as a new item, or takes the place of the selected one where that is asked for. */
const bench = useBench()
const notices = useNotices()
const shelf = useShelf()

const query = ref('')
const set = ref<string | null>(null)
const sets = ref<GraphicSet[]>([])
const found = ref<GraphicCard[]>([])
const more = ref(false)
const setName = computed({
  get: () => set.value ?? '',
  set: (id) => {
    set.value = id || null
  },
})
const credit = computed(() => {
  const entry = sets.value.find((one) => one.id === set.value)
  return entry ? `${entry.count} graphics, ${entry.licence}` : ''
})
const recent = useLocalStorage<GraphicCard[]>('vatman-graphics-recent', [])
const favourites = useLocalStorage<GraphicCard[]>('vatman-graphics-favourites', [])
const target = computed(() => (!bench.replacing && bench.only?.content.kind === 'drawing' ? bench.only : null))

/** Words that a frame is put around. */
const around = computed(() => (bench.only?.content.kind === 'words' && !bench.replacing ? bench.only.item.id : null))

let asked = 0
async function search(onward = false) {
  const mine = ++asked
  try {
    const answer = await api.graphics(query.value, set.value, onward ? found.value.length : 0)
    if (mine !== asked) return
    sets.value = answer.sets
    found.value = onward ? [...found.value, ...answer.graphics] : answer.graphics
    more.value = answer.graphics.length === 60
  } catch (error) {
    notices.report(error)
  }
}
const soon = useDebounceFn(() => search(), 60)
watch(query, soon)
watch(set, () => search())
onMounted(() => search())

async function choose(card: GraphicCard) {
  recent.value = [card, ...recent.value.filter((other) => other.id !== card.id)].slice(0, 12)
  if (bench.swapping && target.value) await bench.act({ act: 'swapGraphic', item: target.value.item.id, graphic: card.id })
  else await bench.add({ kind: 'graphic', graphic: card.id, ...(around.value ? { around: around.value } : {}) })
}

const isFavourite = (card: GraphicCard) => favourites.value.some((other) => other.id === card.id)
function favour(card: GraphicCard) {
  favourites.value = isFavourite(card) ? favourites.value.filter((other) => other.id !== card.id) : [card, ...favourites.value]
}

const file = ref<HTMLInputElement>()
const dialog = useFileDialog({ accept: 'image/svg+xml,.svg', multiple: true, reset: true, input: file as Ref<HTMLInputElement> })
dialog.onChange(async (files) => {
  for (const one of files ?? []) await shelf.bringDrawing(one)
})

const rows = computed(() => [
  { name: 'Favourites', cards: query.value || set.value ? [] : favourites.value },
  { name: 'Used last', cards: query.value || set.value ? [] : recent.value },
  { name: query.value ? 'Found' : 'All', cards: found.value },
])
</script>

<template>
  <div class="graphics">
    <ElInput
      v-model="query"
      placeholder="What should it show?"
      aria-label="Find a graphic"
      :spellcheck="false"
      autocomplete="off"
      clearable
      @keydown.stop />
    <ElSegmented
      v-if="sets.length"
      v-model="setName"
      class="sets"
      :options="[{ value: '', label: 'All' }, ...sets.map((entry) => ({ value: entry.id, label: entry.name }))]"
      aria-label="Which graphics"
      block
      size="small" />
    <p v-if="credit" class="quiet">{{ credit }}</p>
    <SwapSwitch :on="target !== null" what="graphic" />
    <template v-for="row in rows" :key="row.name">
      <h3 v-if="row.cards.length">{{ row.name }}</h3>
      <ul v-if="row.cards.length" :class="{ large: sets.find((one) => one.id === set)?.large }">
        <li v-for="card in row.cards" :key="card.id">
          <button
            class="graphic"
            :title="card.framing && around ? `${card.name}, around the selected words` : card.name"
            :aria-label="card.name"
            @click="choose(card)">
            <img :src="api.graphic(card.id)" alt="" loading="lazy" draggable="false" />
          </button>
          <button class="star" :aria-pressed="isFavourite(card)" :aria-label="`Favourite: ${card.name}`" @click="favour(card)">
            <Star :size="12" />
          </button>
        </li>
      </ul>
    </template>
    <p v-if="!found.length" class="quiet">Nothing is called that. Try a plainer word, or another of its names.</p>
    <button v-if="more" class="act" @click="search(true)">More</button>
    <button class="act" @click="dialog.open()"><FileUp :size="15" />Bring an SVG file</button>
    <input ref="file" type="file" class="visually-hidden" tabindex="-1" aria-label="Bring SVG files" />
  </div>
</template>

<style scoped>
.sets :deep(.el-segmented__item) {
  padding: 0 3px;
}

.sets :deep(.el-segmented__item-label) {
  font-size: var(--text-1);
}

.graphics {
  display: grid;
  gap: 8px;
}

.act[aria-pressed='true'] {
  background: var(--ink);
  color: var(--paper);
}

ul {
  display: grid;
  grid-template-columns: repeat(5, minmax(0, 1fr));
  gap: 4px;
}

ul.large {
  grid-template-columns: repeat(2, minmax(0, 1fr));
}

li {
  position: relative;
}

.graphic {
  width: 100%;
  aspect-ratio: 1;
  padding: 8px;
  border-radius: 3px;
  /* Most graphics are black: they lie on paper in the dark too. */
  background: #fbfaf7;
}

.graphic:hover {
  background: #efece5;
}

.graphic img {
  display: block;
  width: 100%;
  height: 100%;
}

.star {
  position: absolute;
  top: 0;
  right: 0;
  display: none;
  place-items: center;
  width: 20px;
  height: 20px;
  color: #5c564d;
}

li:hover .star,
li:focus-within .star,
.star[aria-pressed='true'] {
  display: grid;
}

.star[aria-pressed='true'] :deep(path),
.star[aria-pressed='true'] :deep(polygon) {
  fill: currentColor;
}
</style>
