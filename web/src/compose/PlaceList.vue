<script setup lang="ts">
import { Check, Search, X } from '@lucide/vue'
import { ElInput, ElMessageBox } from 'element-plus'
import { computed, onMounted, ref, watch } from 'vue'
import { api } from '../api/client'
import { useNewest } from '../api/newest'
import type { PlaceEntry, PlaceFound } from '../generated/types'
import { useNotices } from '../stores/notices'
import { useShelf } from '../stores/shelf'
import KeptPlaces from './KeptPlaces.vue'
import OwnFormatDialog from './OwnFormatDialog.vue'

/** The places there are, found by everyday words or by a size as typed; several can be chosen. */
const typed = defineModel<string>('typed', { default: '' })
const props = defineProps<{ chosen: PlaceEntry[]; there?: string[] }>()
const emit = defineEmits<{ toggle: [place: PlaceEntry]; found: [found: PlaceFound] }>()
const notices = useNotices()

const found = ref<PlaceFound>({ places: [], own: null, problem: null })
/** What was asked when that was found. */
let asked = ''
const ask = async (said: string) => ({ said, found: await api.places(said) })
const search = useNewest(
  () => ask(typed.value),
  (answer) => {
    asked = answer.said
    found.value = answer.found
    emit('found', answer.found)
  },
  notices.report,
)
const shelf = useShelf()
watch([typed, () => shelf.kept], search)
onMounted(() => void search())

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

const isChosen = (place: PlaceEntry) => props.chosen.some((other) => other.id === place.id)

/** Whether the chosen places are a set already. */
const isSet = computed(() => shelf.kept.sets.some((set) => set.places.length === props.chosen.length && set.places.every(isChosen)))

async function keepSet() {
  const answer = await ElMessageBox.prompt('They can be chosen together from now on, in any job.', 'Name of the set', {
    inputPattern: /\S/,
    inputErrorMessage: 'Type a name first.',
    confirmButtonText: 'Keep the set',
    cancelButtonText: 'Never mind',
  }).catch(() => null)
  if (answer)
    await api
      .keepSet(
        answer.value,
        props.chosen.map((place) => place.id),
      )
      .catch(notices.report)
}

const naming = ref(false)
const isOwn = (place: PlaceEntry) => shelf.kept.formats.some((other) => other.id === place.id)
async function forget(place: PlaceEntry) {
  await api.letGo('formats', place.name).catch(notices.report)
}

/** Takes the first for the very words that stand there, however soon the key followed them. */
async function enter() {
  const said = typed.value
  const now = asked === said ? found.value : await api.places(said).catch(notices.report)
  const first = now?.own ?? now?.places[0]
  if (!first || now?.problem) return
  if (!isChosen(first)) emit('toggle', first)
  if (typed.value === said) typed.value = ''
}

/** Small outlines at one scale, so that a card and a poster can be told apart at a glance. */
function outline(place: PlaceEntry) {
  const side = 22
  const ratio = place.format.size.w / place.format.size.h
  return { width: `${ratio >= 1 ? side : side * ratio}px`, height: `${ratio >= 1 ? Math.max(side / ratio, 3) : side}px` }
}
</script>

<template>
  <ElInput
    v-model="typed"
    aria-label="Find a place or type a size"
    placeholder="card, A5, 105 x 210 mm"
    :prefix-icon="Search"
    clearable
    @keydown.enter="enter" />
  <p v-if="found.problem" class="wrong" role="alert">{{ found.problem }}</p>
  <div class="scroll list">
    <button v-if="found.own" class="place own" :aria-pressed="isChosen(found.own)" @click="emit('toggle', found.own)">
      <span class="shape"><i :style="outline(found.own)" /></span>
      <span
        ><b>Exactly this size</b><small>{{ found.own.size }}</small></span
      >
      <Check v-if="isChosen(found.own)" :size="15" />
    </button>
    <button v-if="found.own" class="link keep" @click="naming = true">Keep this size under a name…</button>
    <KeptPlaces v-if="!typed.trim() && shelf.kept.sets.length" :chosen="chosen" :there="there" @toggle="emit('toggle', $event)" />
    <template v-for="group in groups" :key="group.name">
      <h3 v-if="group.name">{{ group.name }}</h3>
      <div v-for="place in group.places" :key="place.id" class="row">
        <button class="place" :aria-pressed="isChosen(place)" :data-place="place.id" @click="emit('toggle', place)">
          <span class="shape"><i :style="outline(place)" /></span>
          <span
            ><b>{{ place.name }}</b
            ><small>{{ place.size }}{{ there?.includes(place.id) ? ', in this job' : '' }}</small></span
          >
          <Check v-if="isChosen(place)" :size="15" />
        </button>
        <button v-if="isOwn(place)" class="tool forget" :aria-label="`Forget the format “${place.name}”`" @click="forget(place)">
          <X :size="13" />
        </button>
      </div>
    </template>
    <p v-if="typed && !found.places.length && !found.own && !found.problem" class="quiet none">
      No place is called that. Type a size instead, such as 90 x 50 mm.
    </p>
  </div>
  <button v-if="chosen.length > 1 && !isSet" class="link keep foot" @click="keepSet">Keep these {{ chosen.length }} as a set…</button>
  <OwnFormatDialog v-model="naming" :size="found.own?.size ?? ''" @kept="typed = ''" />
</template>

<style scoped>
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

.row {
  position: relative;
}

.forget {
  position: absolute;
  top: 6px;
  right: 4px;
  opacity: 0;
}

.row:hover .forget,
.forget:focus-visible {
  opacity: 1;
}

.keep {
  padding: 2px 8px;
  font-size: var(--text-1);
  text-align: left;
  text-decoration: underline;
  text-underline-offset: 3px;
}

.foot {
  padding: 8px 0 12px;
}

.none {
  padding: 12px 8px;
}
</style>
