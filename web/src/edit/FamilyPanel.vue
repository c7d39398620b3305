<script setup lang="ts">
import { FileUp, X } from '@lucide/vue'
import { useFileDialog, useLocalStorage } from '@vueuse/core'
import { ElInput } from 'element-plus'
import { computed, nextTick, onMounted, ref, type Ref } from 'vue'
import type { Embedding, Family } from '../generated/types'
import { useBench } from '../stores/bench'
import { useShelf } from '../stores/shelf'
import ChooserPanel from '../parts/ChooserPanel.vue'
import { useType } from './use-type'

/** Families by kind and name, each showing the person's own words. */
const bench = useBench()
const shelf = useShelf()
const items = computed(() => bench.selected.filter((p) => p.content.kind === 'words'))
const { first, part, now, set } = useType(() => items.value)
const typed = ref('')
const list = ref<HTMLElement>()
const recent = useLocalStorage<string[]>('vatman-families-recent', [])

const family = computed(() => now.value?.family ?? '')
const words = computed(() =>
  first.value?.content.kind === 'words'
    ? first.value.content.text
        .map((run) => run.text)
        .join('')
        .replace(/\s+/g, ' ')
        .trim()
        .slice(0, 40)
    : '',
)
const at = (name: string) => shelf.families.find((entry) => entry.family === name)

/** What goes with the family there is, and what was used last; only while nothing is looked for. */
const near = computed(() => {
  if (typed.value) return []
  const named = (names: string[]) => names.map(at).filter((entry): entry is Family => !!entry && entry.family !== family.value)
  return [
    { name: `Goes with ${family.value}`, families: named(at(family.value)?.pairs ?? []) },
    { name: 'Used last', families: named(recent.value).slice(0, 4) },
  ].filter((group) => group.families.length)
})
const permissions: Record<Embedding, string> = {
  free: 'yours',
  editable: 'yours; may be embedded in documents',
  printOnly: 'yours; in documents only to view and print',
  restricted: 'yours; its maker does not allow embedding without permission',
}

function choose(family: string) {
  recent.value = [family, ...recent.value.filter((other) => other !== family)].slice(0, 8)
  set({ family })
}

/** Shows it on the sheet without keeping it. */
function look(family: string) {
  if (part.value)
    void bench.tryOut({
      act: 'styleLetters',
      item: first.value.item.id,
      ...part.value,
      change: { set: { family }, clear: false, level: false },
    })
  else void bench.tryOut({ act: 'changeType', items: items.value.map((p) => p.item.id), change: { family } })
}

const file = ref<HTMLInputElement>()
const dialog = useFileDialog({
  accept: '.ttf,.otf,.woff,.woff2,font/ttf,font/otf,font/woff2',
  multiple: true,
  reset: true,
  input: file as Ref<HTMLInputElement>,
})
dialog.onChange(async (files) => {
  const brought = await shelf.bringFonts([...(files ?? [])])
  if (brought) choose(brought.family)
})

const found = computed(() => {
  const wanted = typed.value.toLowerCase().split(/\s+/).filter(Boolean)
  return shelf.families.filter((entry) => wanted.every((word) => `${entry.family} ${entry.moods.join(' ')}`.toLowerCase().includes(word)))
})

onMounted(async () => {
  shelf.families.forEach(shelf.showFamily)
  await nextTick()
  list.value?.querySelector('[aria-pressed="true"]')?.scrollIntoView({ block: 'center' })
})
</script>

<template>
  <ChooserPanel title="Families">
    <ElInput
      v-model="typed"
      aria-label="Find a family by name or mood"
      placeholder="name or mood: hand, serif, loud"
      clearable
      @keydown.stop />
    <template v-for="group in near" :key="group.name">
      <h3>{{ group.name }}</h3>
      <ul class="near">
        <li v-for="entry in group.families" :key="entry.family">
          <button :data-near="entry.family" @pointerenter="look(entry.family)" @click="choose(entry.family)">
            <span :style="{ fontFamily: `'specimen ${entry.family}'` }">{{ words || entry.family }}</span><small>{{ entry.family }}</small>
          </button>
        </li>
      </ul>
    </template>
    <h3 v-if="near.length">All</h3>
    <ul ref="list" aria-label="Families">
      <li v-for="entry in found" :key="entry.family">
        <button
          :aria-pressed="entry.family === family"
          :data-family="entry.family"
          @pointerenter="look(entry.family)"
          @click="choose(entry.family)">
          <span :style="{ fontFamily: `'specimen ${entry.family}'` }">{{ words || entry.family }}</span>
          <small>{{ entry.family }} · {{ entry.own ? permissions[entry.own] : entry.moods[0] }}</small>
        </button>
        <button
          v-if="entry.own"
          class="tool away"
          :aria-label="`Take ${entry.family} off the shelf`"
          @click="shelf.dropFamily(entry.family)">
          <X :size="14" />
        </button>
      </li>
    </ul>
    <p v-if="!found.length" class="quiet">No family is called that. Try a mood such as “hand” or “condensed”.</p>
    <button class="act bring" @click="dialog.open()"><FileUp :size="14" />Bring a font of your own</button>
    <input ref="file" type="file" class="visually-hidden" tabindex="-1" aria-label="Bring font files" />
  </ChooserPanel>
</template>

<style scoped>
ul {
  margin: 4px -14px 0;
}

h3 {
  margin-top: 12px;
}

li {
  position: relative;
}

.away {
  position: absolute;
  right: 8px;
  top: 8px;
}

.bring {
  margin-top: 10px;
}

li button:not(.tool) {
  display: block;
  width: 100%;
  padding: 7px 14px;
  text-align: left;
}

li button:hover,
li button[aria-pressed='true'] {
  background: var(--paper-3);
}

li button[aria-pressed='true'] {
  box-shadow: inset 3px 0 var(--ink);
}

li span {
  display: block;
  font-size: 24px;
  line-height: 1.3;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}

li small {
  color: var(--ink-3);
  font-size: var(--text-1);
}
</style>
