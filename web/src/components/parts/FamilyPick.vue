<script setup lang="ts">
import { FileUp, X } from '@lucide/vue'
import { useLocalStorage } from '@vueuse/core'
import { ElPopover } from 'element-plus'
import { computed, nextTick, ref, watch } from 'vue'
import type { Embedding, Family } from '../../generated/types'
import { useShelf } from '../../stores/shelf'

/** Families by kind and name, each showing the person's own words. */
const props = defineProps<{ family: string; words: string }>()
const emit = defineEmits<{ pick: [family: string] }>()

const shelf = useShelf()
const open = ref(false)
const typed = ref('')
const list = ref<HTMLElement>()

const file = ref<HTMLInputElement>()
const recent = useLocalStorage<string[]>('vatman-families-recent', [])
const at = (name: string) => shelf.families.find((family) => family.family === name)
const isMissing = computed(() => shelf.families.length > 0 && !at(props.family))

/** What goes with the family there is, and what was used last; only while nothing is looked for. */
const near = computed(() => {
  if (typed.value) return []
  const named = (names: string[]) => names.map(at).filter((family): family is Family => !!family && family.family !== props.family)
  return [{ name: `Goes with ${props.family}`, families: named(at(props.family)?.pairs ?? []) }, { name: 'Used last', families: named(recent.value).slice(0, 4) }].filter((group) => group.families.length)
})
const permissions: Record<Embedding, string> = { free: 'yours', editable: 'yours; may be embedded in documents', printOnly: 'yours; in documents only to view and print', restricted: 'yours; its maker does not allow embedding without permission' }

function choose(family: string) {
  recent.value = [family, ...recent.value.filter((other) => other !== family)].slice(0, 8)
  emit('pick', family)
  open.value = false
}

async function bring(event: Event) {
  const field = event.target as HTMLInputElement
  const family = await shelf.bringFonts([...(field.files ?? [])])
  field.value = ''
  if (family) choose(family.family)
}

const found = computed(() => {
  const words = typed.value.toLowerCase().split(/\s+/).filter(Boolean)
  return shelf.families.filter((family) => words.every((word) => `${family.family} ${family.moods.join(' ')}`.toLowerCase().includes(word)))
})

watch(open, async (now) => {
  if (!now) return
  typed.value = ''
  shelf.families.forEach(shelf.showFamily)
  await nextTick()
  window.setTimeout(() => list.value?.querySelector('[aria-pressed="true"]')?.scrollIntoView({ block: 'center' }), 60)
})
</script>

<template>
  <ElPopover v-model:visible="open" trigger="click" placement="left-start" :width="320" :persistent="false" :show-arrow="false">
    <template #reference>
      <button class="chip" :aria-label="`Family: ${family}`" :aria-expanded="open">{{ family }}<small v-if="isMissing">not at hand; Work Sans stands in</small><small v-else-if="at(family)?.own === 'restricted'">embedding restricted</small></button>
    </template>
    <div @keydown.stop @keydown.escape="open = false">
      <input v-model="typed" class="field" aria-label="Find a family by name or mood" placeholder="name or mood: hand, serif, loud" />
      <template v-for="group in near" :key="group.name">
        <h3>{{ group.name }}</h3>
        <ul class="near">
          <li v-for="entry in group.families" :key="entry.family"><button :data-near="entry.family" @click="choose(entry.family)"><span :style="{ fontFamily: `'specimen ${entry.family}'` }">{{ words || entry.family }}</span><small>{{ entry.family }}</small></button></li>
        </ul>
      </template>
      <h3 v-if="near.length">All</h3>
      <ul ref="list" class="scroll" aria-label="Families">
        <li v-for="entry in found" :key="entry.family">
          <button :aria-pressed="entry.family === family" :data-family="entry.family" @click="choose(entry.family)">
            <span :style="{ fontFamily: `'specimen ${entry.family}'` }">{{ words || entry.family }}</span>
            <small>{{ entry.family }} · {{ entry.own ? permissions[entry.own] : entry.moods[0] }}</small>
          </button>
          <button v-if="entry.own" class="tool away" :aria-label="`Take ${entry.family} off the shelf`" title="Take it off the shelf" @click="shelf.dropFamily(entry.family)"><X :size="14" /></button>
        </li>
      </ul>
      <p v-if="!found.length" class="quiet">No family is called that. Try a mood such as “hand” or “condensed”.</p>
      <button class="act bring" @click="file?.click()"><FileUp :size="14" />Bring a font of your own</button>
      <input ref="file" type="file" class="visually-hidden" accept=".ttf,.otf,.woff,.woff2,font/ttf,font/otf,font/woff2" multiple tabindex="-1" aria-label="Bring font files" @change="bring" />
    </div>
  </ElPopover>
</template>

<style scoped>
.chip {
  width: 100%;
  height: 30px;
  padding: 0 8px;
  border: 1px solid var(--rule);
  border-radius: 3px;
  background: var(--paper);
  text-align: left;
}

.chip:hover {
  border-color: var(--rule-strong);
}

ul {
  max-height: 300px;
  margin: 4px -12px 0;
}

h3 {
  margin-top: 8px;
}

.chip small {
  display: block;
  margin-top: -3px;
  font-size: 10px;
  line-height: 1.1;
  color: var(--madder);
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
  padding: 6px 14px;
  text-align: left;
}

li button:hover,
li button[aria-pressed='true'] {
  background: var(--paper-3);
}

li span {
  display: block;
  font-size: 22px;
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
