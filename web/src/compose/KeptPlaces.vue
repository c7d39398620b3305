<script setup lang="ts">
import { Check, Layers, X } from '@lucide/vue'
import { api } from '../api/client'
import type { PlaceEntry, PlaceSet } from '../generated/types'
import { useNotices } from '../stores/notices'
import { useShelf } from '../stores/shelf'

/** Sets of places somebody keeps: one press chooses all of them. */
const props = defineProps<{ chosen: PlaceEntry[]; there?: string[] | undefined }>()
const emit = defineEmits<{ toggle: [place: PlaceEntry] }>()
const shelf = useShelf()
const notices = useNotices()

const has = (place: PlaceEntry) => props.chosen.some((other) => other.id === place.id)
/** Those of a set that are not there yet. */
const wanted = (set: PlaceSet) => set.places.filter((place) => !props.there?.includes(place.id))
const whole = (set: PlaceSet) => wanted(set).length > 0 && wanted(set).every(has)

function take(set: PlaceSet) {
  const all = whole(set)
  for (const place of wanted(set).filter((one) => has(one) === all)) emit('toggle', place)
}

async function forget(set: PlaceSet) {
  const places = set.places.map((place) => place.id)
  try {
    await api.letGo('sets', set.name)
    notices.say(`The set “${set.name}” was forgotten.`, {
      action: { label: 'Bring it back', run: () => void api.keepSet(set.name, places).catch(notices.report) },
    })
  } catch (error) {
    notices.report(error)
  }
}
</script>

<template>
  <h3>Your sets</h3>
  <div v-for="set in shelf.kept.sets" :key="set.name" class="set">
    <button class="take" :aria-pressed="whole(set)" :disabled="!wanted(set).length" :data-set="set.name" @click="take(set)">
      <Layers :size="18" />
      <span
        ><b>{{ set.name }}</b
        ><small>{{
          wanted(set).length
            ? wanted(set)
                .map((place) => place.name)
                .join(', ')
            : 'all in this job'
        }}</small></span
      >
      <Check v-if="whole(set)" :size="15" />
    </button>
    <button class="tool forget" :aria-label="`Forget the set “${set.name}”`" @click="forget(set)"><X :size="13" /></button>
  </div>
</template>

<style scoped>
h3 {
  padding: 12px 8px 4px;
}

.set {
  position: relative;
}

.take {
  display: grid;
  grid-template-columns: 28px 1fr 18px;
  align-items: center;
  gap: 10px;
  width: 100%;
  padding: 5px 30px 5px 8px;
  border-radius: 3px;
  text-align: left;
}

.take > svg {
  justify-self: center;
  color: var(--ink-2);
}

.take:hover,
.take[aria-pressed='true'] {
  background: var(--paper-3);
}

b {
  display: block;
  font-weight: 500;
}

.take[aria-pressed='true'] b {
  font-weight: 700;
}

small {
  display: block;
  overflow: hidden;
  color: var(--ink-3);
  font-size: var(--text-1);
  text-overflow: ellipsis;
  white-space: nowrap;
}

.take span {
  min-width: 0;
}

.forget {
  position: absolute;
  top: 6px;
  right: 4px;
  opacity: 0;
}

.set:hover .forget,
.forget:focus-visible {
  opacity: 1;
}
</style>
