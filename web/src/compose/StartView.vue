<script setup lang="ts">
import { ArrowLeft, Check, Images, Search, X } from '@lucide/vue'
import { useDebounceFn, useSessionStorage } from '@vueuse/core'
import { ElInput } from 'element-plus'
import { computed, onMounted, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api } from '../api/client'
import type { Ask, DesignCard, Part, PlaceEntry, PlaceFound } from '../generated/types'
import { useBench } from '../stores/bench'
import { useNotices } from '../stores/notices'

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

const search = useDebounceFn(async () => {
  try {
    found.value = await api.places(typed.value)
  } catch (error) {
    notices.report(error)
  }
}, 60)
watch(typed, search)

onMounted(() => void search())

/** Designs that suit the chosen places come first; what is typed finds them by words. */
const wanted = useSessionStorage('vatman-start-wanted', '')
const findDesigns = useDebounceFn(async () => {
  try {
    designs.value = await api.designs(chosen.value.map((place) => place.id), wanted.value)
  } catch (error) {
    notices.report(error)
  }
}, 60)
watch([() => chosen.value.map((place) => place.id).join(), wanted], findDesigns, { immediate: true })

const groups = computed(() => {
  if (typed.value.trim()) return [{ name: '', places: found.value.places }]
  const out: { name: string; places: PlaceEntry[] }[] = []
  for (const place of found.value.places) {
    const last = out.find((group) => group.name === place.group)
    if (last) last.places.push(place)
    else out.push({ name: place.group, places: [place] })
  }
  return out
})

const isChosen = (place: PlaceEntry) => chosen.value.some((other) => other.id === place.id)

function toggle(place: PlaceEntry) {
  if (isChosen(place)) chosen.value = chosen.value.filter((other) => other.id !== place.id)
  else chosen.value = [...chosen.value, place]
  shape.value = isChosen(place) ? place.id : (chosen.value.at(-1)?.id ?? null)
}

function enter() {
  const first = found.value.own ?? found.value.places[0]
  if (!first || found.value.problem) return
  if (!isChosen(first)) toggle(first)
  typed.value = ''
}

const shown = computed(() => chosen.value.find((place) => place.id === shape.value) ?? chosen.value[0] ?? null)
/** Every design in all the chosen shapes at once. */
const together = ref(false)
const everywhere = computed(() => together.value && chosen.value.length > 1)
const preview = computed(() => shown.value?.id ?? 'square-post')
const aspect = computed(() => (shown.value ? shown.value.format.size.w / shown.value.format.size.h : 1))
const wide = computed(() => (aspect.value > 2.2 ? 420 : aspect.value > 1.2 ? 300 : aspect.value < 0.4 ? 120 : aspect.value < 0.8 ? 164 : 208))

const given = computed(() => Object.fromEntries(Object.entries(words.value).filter(([, text]) => text?.trim())))
const settled = ref('')
const settle = useDebounceFn(() => { settled.value = Object.keys(given.value).length ? JSON.stringify(given.value) : '' }, 250)
watch(given, settle)

/** Small outlines at one scale, so that a card and a poster can be told apart at a glance. */
function outline(place: PlaceEntry) {
  const side = 22
  const ratio = place.format.size.w / place.format.size.h
  return { width: `${ratio >= 1 ? side : side * ratio}px`, height: `${ratio >= 1 ? Math.max(side / ratio, 3) : side}px` }
}

/** A blank sheet may begin with pictures that are chosen at once, to be arranged. */
async function start(design: string | null, pictures = false) {
  if (making.value) return
  making.value = true
  try {
    const places = chosen.value.length ? chosen.value.map((place) => place.id) : ['square-post']
    const { id } = await api.start({ design, places, words: given.value })
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
      <ElInput v-model="typed" aria-label="Find a place or type a size" placeholder="card, A5, 105 x 210 mm" :prefix-icon="Search" clearable @keydown.enter="enter" />
      <p v-if="found.problem" class="wrong" role="alert">{{ found.problem }}</p>
      <div class="scroll list">
        <button v-if="found.own" class="place own" :aria-pressed="isChosen(found.own)" @click="toggle(found.own)">
          <span class="shape"><i :style="outline(found.own)" /></span>
          <span><b>Exactly this size</b><small>{{ found.own.size }}</small></span>
          <Check v-if="isChosen(found.own)" :size="15" />
        </button>
        <template v-for="group in groups" :key="group.name">
          <h3 v-if="group.name">{{ group.name }}</h3>
          <button v-for="place in group.places" :key="place.id" class="place" :aria-pressed="isChosen(place)" :data-place="place.id" @click="toggle(place)">
            <span class="shape"><i :style="outline(place)" /></span>
            <span><b>{{ place.name }}</b><small>{{ place.size }}</small></span>
            <Check v-if="isChosen(place)" :size="15" />
          </button>
        </template>
        <p v-if="typed && !found.places.length && !found.own && !found.problem" class="quiet none">
          No place is called that. Type a size instead, such as 90 x 50 mm.
        </p>
      </div>
    </section>

    <section class="says scroll" aria-labelledby="says">
      <h2 id="says">What does it say?</h2>
      <p class="quiet">All of this may wait. What you leave empty takes no room.</p>
      <label v-for="row in asked" :key="row.part">
        <span>{{ row.label }}</span>
        <ElInput v-model="words[row.part]" type="textarea" :autosize="{ minRows: 1, maxRows: 6 }" resize="none" :placeholder="row.hint" :name="row.part" />
      </label>
    </section>

    <section class="how" aria-labelledby="how">
      <div class="title">
        <h2 id="how">Choose a design</h2>
        <span class="quiet">{{ everywhere ? 'shown in every chosen shape' : shown ? `shown as ${shown.name.toLowerCase()}, ${shown.size}` : 'shown as a square post until you say where it goes' }}</span>
        <ElInput v-model="wanted" class="find" aria-label="Find a design" placeholder="market, card, calm" :prefix-icon="Search" clearable />
        <span class="shapes">
          <template v-if="chosen.length > 1">
            <button v-for="place in chosen" :key="place.id" :aria-pressed="!everywhere && place.id === preview" @click="together = false; shape = place.id">{{ place.name }}</button>
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
                <img v-for="place in chosen" :key="place.id" :src="api.designPicture(design.id, place.id, settled, 320)" :style="{ aspectRatio: String(place.format.size.w / place.format.size.h), flexGrow: Math.sqrt(place.format.size.w / place.format.size.h) }" :alt="`${design.name} as ${place.name.toLowerCase()}`" class="checks" />
              </span>
              <img v-else :key="preview" :src="api.designPicture(design.id, preview, settled, wide > 300 ? 640 : 440)" :style="{ aspectRatio: String(aspect) }" :alt="`${design.name} with your words`" class="checks" />
              <b>{{ design.name }}</b>
              <small>{{ design.about }}</small>
            </button>
          </li>
          <li>
            <button class="design" :disabled="making" data-design="blank" @click="start(null)">
              <span class="blank" :style="{ aspectRatio: String(aspect) }" />
              <b>Blank sheet</b>
              <small>Nothing on it, in {{ chosen.length > 1 ? 'every chosen size' : 'this size' }}</small>
            </button>
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

.search {
  position: relative;
  display: block;
}

.search svg {
  position: absolute;
  left: 9px;
  top: 8px;
  color: var(--ink-3);
}

.list {
  flex: 1;
  margin: 0 -16px;
  padding: 0 8px 16px;
}

.list h3 {
  padding: 12px 8px 4px;
}

.place {
  display: grid;
  grid-template-columns: 28px 1fr 18px;
  align-items: center;
  gap: 10px;
  width: 100%;
  padding: 5px 8px;
  border-radius: 3px;
  text-align: left;
}

.place:hover {
  background: var(--paper-3);
}

.place b {
  display: block;
  font-weight: 500;
}

.place small {
  color: var(--ink-3);
  font-size: var(--text-1);
}

.place[aria-pressed='true'] {
  background: var(--paper-3);
}

.place[aria-pressed='true'] b {
  font-weight: 700;
}

.shape {
  display: grid;
  place-items: center;
  height: 26px;
}

.shape i {
  display: block;
  border: 1.5px solid var(--ink-2);
  background: var(--paper);
}

.place[aria-pressed='true'] .shape i {
  background: var(--ink);
}

.none {
  padding: 12px 8px;
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
  box-shadow: 0 0 0 1px rgb(33 30 26 / 0.16), 0 3px 10px rgb(33 30 26 / 0.16);
}

.blank {
  display: grid;
  place-items: center;
  background: #fff;
  color: #8a8276;
}

.design:hover:not(:disabled) img,
.design:hover:not(:disabled) .blank {
  box-shadow: 0 0 0 2px var(--ink), 0 6px 18px rgb(33 30 26 / 0.22);
}

.design b {
  display: block;
}

.design small {
  color: var(--ink-3);
  font-size: var(--text-1);
}
</style>
