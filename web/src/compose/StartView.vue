<script setup lang="ts">
import { ArrowLeft, Images, Search, X } from '@lucide/vue'
import { useDebounceFn, useSessionStorage } from '@vueuse/core'
import { ElCheckbox, ElInput } from 'element-plus'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api } from '../api/client'
import { useNewest } from '../api/newest'
import type { Ask, DesignCard, Grid, GridCard, Part, PlaceEntry, PlaceFound } from '../generated/types'
import { useBench } from '../stores/bench'
import { useNotices } from '../stores/notices'
import ChoiceField from '../parts/ChoiceField.vue'
import GridSheet from './GridSheet.vue'
import PlaceList from './PlaceList.vue'

const router = useRouter()
const notices = useNotices()
const bench = useBench()

const typed = useSessionStorage('vatman-start-typed', '')
const found = ref<PlaceFound>({ places: [], own: null, problem: null })
const chosen = useSessionStorage<PlaceEntry[]>('vatman-start-places', [])
const designs = ref<DesignCard[]>([])
const shape = ref<string | null>(null)
const making = ref(false)

/** What the chosen places need to be told, each part once, as the first of them asks for it. */
const asked = computed<Ask[]>(() => {
  const all = (chosen.value.length ? chosen.value : found.value.places.slice(0, 1)).flatMap((place) => place.asks ?? [])
  return all.filter((ask, i) => all.findIndex((other) => other.part === ask.part) === i)
})
const words = useSessionStorage<Partial<Record<Part, string>>>('vatman-start-words', {})

/** Designs that suit the chosen places come first; what is typed finds them by words. */
const wanted = useSessionStorage('vatman-start-wanted', '')
const findDesigns = useNewest(
  () =>
    api.designs(
      chosen.value.map((place) => place.id),
      wanted.value,
    ),
  (answer) => {
    designs.value = answer
  },
  notices.report,
)
watch([() => chosen.value.map((place) => place.id).join(), wanted], findDesigns, { immediate: true })

function toggle(place: PlaceEntry) {
  const chose = !chosen.value.some((other) => other.id === place.id)
  chosen.value = chose ? [...chosen.value, place] : chosen.value.filter((other) => other.id !== place.id)
  shape.value = chose ? place.id : (chosen.value.at(-1)?.id ?? null)
}

const shown = computed(() => chosen.value.find((place) => place.id === shape.value) ?? chosen.value[0] ?? null)
/** Every design in all the chosen shapes at once. */
const together = ref(false)
const everywhere = computed(() => together.value && chosen.value.length > 1)
const preview = computed(() => shown.value?.id ?? 'square-post')
const aspect = computed(() => (shown.value ? shown.value.format.size.w / shown.value.format.size.h : 1))
const wide = computed(() =>
  aspect.value > 2.2 ? 420 : aspect.value > 1.2 ? 300 : aspect.value < 0.4 ? 120 : aspect.value < 0.8 ? 164 : 208,
)

/** A piece on paper may have a back from the start; places that are folded have their sides anyway. */
const backs = ref(false)
const mayHaveBacks = computed(() => chosen.value.some((place) => place.format.unit !== 'px' && !place.sides.length))

/** The lines a blank sheet begins with. */
const grid = ref<Grid | null>(null)
const grids = ref<GridCard[]>([])
watch(
  preview,
  async (place) => {
    grids.value = await api.grids(place).catch(() => [])
  },
  { immediate: true },
)

const given = computed(() => Object.fromEntries(Object.entries(words.value).filter(([, text]) => text?.trim())))
const settled = ref('')
const settle = useDebounceFn(() => {
  settled.value = Object.keys(given.value).length ? JSON.stringify(given.value) : ''
}, 250)
watch(given, settle)

/** A blank sheet may begin with pictures that are chosen at once, to be arranged. */
async function start(design: string | null, pictures = false) {
  if (making.value) return
  making.value = true
  try {
    const places = chosen.value.length ? chosen.value.map((place) => place.id) : ['square-post']
    const { id } = await api.start({
      design,
      places,
      words: given.value,
      ...(backs.value && mayHaveBacks.value ? { backs: true } : {}),
      ...(design === null && grid.value ? { grid: grid.value } : {}),
    })
    await router.push({ name: 'bench', params: { job: id, step: pictures ? 'pictures' : 'words' } })
    if (pictures) bench.arranging = []
    // What was asked for is a job now: the next one begins anew.
    typed.value = ''
    chosen.value = []
    words.value = {}
    wanted.value = ''
  } catch (error) {
    notices.report(error)
  } finally {
    making.value = false
  }
}
/** Looks at one place by itself. */
function alone(place: string) {
  together.value = false
  shape.value = place
}
</script>

<template>
  <div class="start">
    <header>
      <RouterLink :to="{ name: 'board' }" class="back"><ArrowLeft :size="16" />Board</RouterLink>
      <h1>Start a job</h1>
      <ul v-if="chosen.length" class="chosen" aria-label="Chosen places">
        <li v-for="place in chosen" :key="place.id">
          {{ place.name }}
          <button :aria-label="`Leave out ${place.name}`" @click="toggle(place)"><X :size="13" /></button>
        </li>
      </ul>
    </header>

    <section class="where" aria-labelledby="where">
      <h2 id="where">Where will it go?</h2>
      <PlaceList v-model:typed="typed" :chosen="chosen" @toggle="toggle" @found="found = $event" />
    </section>

    <section class="says scroll" aria-labelledby="says">
      <h2 id="says">What does it say?</h2>
      <p class="quiet">All of this may wait. What you leave empty takes no room.</p>
      <ElCheckbox v-if="mayHaveBacks" v-model="backs" label="With a back, blank to begin with" data-field="backs" />
      <label v-for="row in asked" :key="row.part">
        <span>{{ row.label }}</span>
        <ElInput
          v-model="words[row.part]"
          type="textarea"
          :autosize="{ minRows: 1, maxRows: 6 }"
          resize="none"
          :placeholder="row.hint"
          :name="row.part" />
      </label>
    </section>

    <section class="how" aria-labelledby="how">
      <div class="title">
        <h2 id="how">Choose a design</h2>
        <span class="quiet">{{
          everywhere
            ? 'shown in every chosen shape'
            : shown
              ? `shown as ${shown.name.toLowerCase()}, ${shown.size}`
              : 'shown as a square post until you say where it goes'
        }}</span>
        <ElInput
          v-model="wanted"
          class="find"
          aria-label="Find a design"
          placeholder="market, card, calm"
          :prefix-icon="Search"
          clearable />
        <span class="shapes">
          <template v-if="chosen.length > 1">
            <button v-for="place in chosen" :key="place.id" :aria-pressed="!everywhere && place.id === preview" @click="alone(place.id)">
              {{ place.name }}
            </button>
            <button :aria-pressed="everywhere" @click="together = true">All of them</button>
          </template>
        </span>
      </div>
      <div class="scroll designs">
        <p v-if="!designs.length && wanted" class="quiet">No design is found by that. Try what it is for: market, card, mark.</p>
        <ul :style="{ '--wide': everywhere ? `${Math.min(chosen.length, 4) * 124}px` : `${wide}px` }">
          <li v-for="design in designs" :key="design.id">
            <button class="design" :disabled="making" :data-design="design.id" @click="start(design.id)">
              <span v-if="everywhere" class="every">
                <img
                  v-for="place in chosen"
                  :key="place.id"
                  :src="api.designPicture(design.id, place.id, settled, 320)"
                  :style="{
                    aspectRatio: String(place.format.size.w / place.format.size.h),
                    flexGrow: Math.sqrt(place.format.size.w / place.format.size.h),
                  }"
                  :alt="`${design.name} as ${place.name.toLowerCase()}`"
                  class="checks" />
              </span>
              <img
                v-else
                :key="preview"
                :src="api.designPicture(design.id, preview, settled, wide > 300 ? 640 : 440)"
                :style="{ aspectRatio: String(aspect) }"
                :alt="`${design.name} with your words`"
                class="checks" />
              <b>{{ design.name }}</b>
              <small>{{ design.about }}</small>
            </button>
          </li>
          <li>
            <button class="design" :disabled="making" data-design="blank" @click="start(null)">
              <GridSheet :aspect="aspect" :grid="grids.find((one) => one.grid === grid) ?? null" />
              <b>Blank sheet</b>
              <small>Nothing on it, in {{ chosen.length > 1 ? 'every chosen size' : 'this size' }}</small>
            </button>
            <ChoiceField
              label="With lines to lay things out by"
              :value="grid ?? 'none'"
              :choices="[{ value: 'none', name: 'No lines' }, ...grids.map((one) => ({ value: one.grid, name: one.name }))]"
              hide-label
              @done="grid = $event === 'none' ? null : ($event as Grid)" />
          </li>
          <li>
            <button class="design" :disabled="making" data-design="pictures" @click="start(null, true)">
              <span class="blank" :style="{ aspectRatio: String(aspect) }"><Images :size="28" aria-hidden="true" /></span>
              <b>From pictures</b>
              <small>Choose two or more, then how they are arranged</small>
            </button>
          </li>
        </ul>
      </div>
    </section>
  </div>
</template>

<style scoped>
.start {
  height: 100%;
  display: grid;
  grid-template: var(--bar) minmax(0, 1fr) / 264px 268px minmax(0, 1fr);
}

header {
  grid-column: 1 / -1;
  display: flex;
  align-items: center;
  gap: 16px;
  padding: 0 16px;
  background: var(--paper);
  border-bottom: 1px solid var(--rule);
}

header h1 {
  font-size: var(--text-3);
}

.back {
  display: inline-flex;
  align-items: center;
  gap: 4px;
  color: var(--ink-2);
  text-decoration: none;
}

.chosen {
  display: flex;
  gap: 6px;
  overflow: hidden;
}

.chosen li {
  display: flex;
  align-items: center;
  gap: 6px;
  padding: 3px 6px 3px 10px;
  background: var(--ink);
  color: var(--paper);
  border-radius: 2px;
  white-space: nowrap;
}

section {
  min-height: 0;
  padding: 18px 16px 0;
  display: flex;
  flex-direction: column;
  gap: 10px;
}

.where,
.says {
  background: var(--paper);
  border-right: 1px solid var(--rule);
}

.says {
  padding-bottom: 24px;
}

.says label span {
  display: block;
  margin-bottom: 3px;
  font-size: var(--text-1);
  color: var(--ink-2);
}

.says textarea {
  resize: none;
  field-sizing: content;
  min-height: 30px;
}

.title {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr) auto;
  align-items: baseline;
  gap: 4px 12px;
}

.shapes {
  grid-column: 1 / -1;
  display: flex;
  flex-wrap: wrap;
  gap: 2px;
}

.shapes button {
  padding: 2px 8px;
  border-radius: 2px;
  color: var(--ink-2);
}

.shapes button[aria-pressed='true'] {
  color: var(--ink);
  font-weight: 600;
  box-shadow: inset 0 -2px var(--madder);
  border-radius: 0;
}

.how {
  padding-right: 0;
}

.find {
  width: 190px;
  margin-right: 20px;
}

.every {
  display: flex;
  align-items: end;
  gap: 8px;
}

.design .every img {
  width: 0;
  min-width: 0;
  flex-basis: 0;
}

.designs {
  flex: 1;
  padding: 6px 20px 32px 2px;
}

.designs ul {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(var(--wide), 1fr));
  gap: 22px 18px;
  align-items: start;
}

.design {
  display: block;
  width: 100%;
  text-align: left;
}

.design img,
.blank {
  display: block;
  width: 100%;
  margin-bottom: 8px;
  box-shadow:
    0 0 0 1px rgb(33 30 26 / 0.16),
    0 3px 10px rgb(33 30 26 / 0.16);
}

.blank {
  display: grid;
  place-items: center;
  background: #fff;
  color: #8a8276;
}

.design:hover:not(:disabled) img,
.design:hover:not(:disabled) .blank {
  box-shadow:
    0 0 0 2px var(--ink),
    0 6px 18px rgb(33 30 26 / 0.22);
}

.design b {
  display: block;
}

.design small {
  color: var(--ink-3);
  font-size: var(--text-1);
}
</style>
