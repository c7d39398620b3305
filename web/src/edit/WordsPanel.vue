<script setup lang="ts">
import { Plus } from '@lucide/vue'
import { ElInput } from 'element-plus'
import type { Part } from '../generated/types'
import ActMenu from '../parts/ActMenu.vue'
import { computed, ref } from 'vue'
import { useBench, type Plain } from '../stores/bench'
import DraftField from '../parts/DraftField.vue'

/** All copy of this side in reading order. Editing here and on the sheet is the same thing. */
const bench = useBench()

const names: Record<string, string> = {
  headline: 'Headline',
  support: 'Second line',
  when: 'When',
  where: 'Where',
  detail: 'Detail',
  price: 'Price',
  action: 'Call to action',
  contact: 'Contact',
  smallPrint: 'Small print',
  mark: 'Mark',
}
const lines = computed(() => bench.reading.map((id) => bench.plain(id)).filter((p): p is Plain => p?.content.kind === 'words'))
const text = (p: Plain) => (p.content.kind === 'words' ? p.content.text.map((run) => run.text).join('') : '')
const prompt = (p: Plain) => (p.content.kind === 'words' ? p.content.prompt : '')
const gesture = ref('')
/** Words that are not on this side: there was not room for them, or they were taken away. */
const left = computed(() =>
  [...(bench.piece?.tray ?? [])]
    .filter((removed) => removed.side === bench.sideId && removed.kin.content.kind === 'words')
    .toReversed()
    .slice(0, 6),
)

function begin(p: Plain) {
  gesture.value = `words-${crypto.randomUUID()}`
  bench.typing = bench.cropping = null
  bench.selection = [p.item.id]
}

function change(p: Plain, text: string) {
  void bench.act({ act: 'say', item: p.item.id, text }, gesture.value)
}

async function add(part: Part | 'code') {
  if (part === 'code') return void bench.add({ kind: 'code', says: { kind: 'address', address: '' } })
  const [made] = await bench.add({ kind: 'words', part })
  if (made) await bench.type(made)
}

const roles: { part: Part | 'code'; name: string; apart?: boolean }[] = [
  { part: 'headline', name: 'Headline' },
  { part: 'support', name: 'Second line' },
  { part: 'detail', name: 'Text' },
  { part: 'when', name: 'When' },
  { part: 'where', name: 'Where' },
  { part: 'price', name: 'Price' },
  { part: 'action', name: 'Call to action' },
  { part: 'smallPrint', name: 'Small print' },
  { part: 'code', name: 'A code to scan', apart: true },
]

const contacts = ref<string | null>(null)
/** The stack of contact lines there is, which more of them go under. */
const stack = computed(
  () =>
    bench.side?.stacks?.find(
      (entry) =>
        entry.direction === 'down' &&
        bench.side!.items.some((item) => item.groups?.includes(entry.group) && bench.plain(item.id)?.part === 'contact'),
    ) ?? null,
)

async function addContacts() {
  const lines = (contacts.value ?? '').split('\n').filter((line) => line.trim())
  if (!lines.length || !bench.sideId) return
  const response = await bench.act({
    act: 'addContacts',
    side: bench.sideId,
    lines,
    ...(stack.value ? { stack: stack.value.group } : {}),
    ...bench.last(),
  })
  if (!response) return
  contacts.value = null
  bench.selection = response.made.flatMap((id) => bench.withGroup(id)).filter((id, i, all) => all.indexOf(id) === i)
}

function sharing(p: Plain): string {
  const count = bench.shownIn(p.item.kin)
  if (p.ownContent) return 'own words in this piece'
  return count > 1 ? `shared by ${count} pieces` : ''
}
</script>

<template>
  <section aria-labelledby="words-title">
    <div class="panel-head">
      <h2 id="words-title">Words</h2>
      <ActMenu
        label="Add a text"
        :entries="roles.map((role) => ({ value: role.part, name: role.name, ...(role.apart ? { apart: true } : {}) }))"
        @done="add"
        ><Plus :size="14" />Add a text</ActMenu
      >
    </div>
    <p v-if="!lines.length" class="quiet">There are no words on this side yet. Add a text and type on the sheet.</p>
    <ol>
      <li v-for="p in lines" :key="p.item.id" :class="{ chosen: bench.selection.includes(p.item.id) }">
        <label>
          <span
            ><b>{{ names[p.part] ?? 'Text' }}</b
            ><i>{{ sharing(p) }}</i></span
          >
          <DraftField
            multiline
            :value="text(p)"
            :placeholder="prompt(p)"
            :data-words="p.item.id"
            @focus="begin(p)"
            @input="change(p, $event)" />
        </label>
        <p v-for="finding in bench.drawn.get(p.item.id)?.findings ?? []" :key="finding.kind" class="wrong">{{ finding.says }}</p>
      </li>
    </ol>
    <template v-if="left.length">
      <h3 class="out">Left out here</h3>
      <ol class="left">
        <li v-for="removed in left" :key="removed.item.id">
          <span>{{ bench.names.get(removed.item.id) }}</span><button
            class="act"
            :aria-label="`Put back: ${bench.names.get(removed.item.id) ?? ''}`"
            @click="bench.act({ act: 'putBack', piece: bench.piece!.id, item: removed.item.id })">
            Put back
          </button>
        </li>
      </ol>
    </template>
    <div class="contacts">
      <button v-if="contacts === null" class="act" @click="contacts = ''">{{ stack ? 'More contact lines' : 'Contact lines' }}</button>
      <template v-else>
        <label
          ><span><b>Contact lines</b><i>one to a line; each gets its sign</i></span>
          <ElInput v-model="contacts" type="textarea" :rows="3" placeholder="mail, number, page, @name, place" @keydown.stop />
        </label>
        <button class="act" @click="addContacts">{{ stack ? 'Add to the stack' : 'Add as a stack' }}</button>
        <button class="act" @click="contacts = null">Never mind</button>
      </template>
    </div>
  </section>
</template>

<style scoped>
ol {
  display: grid;
  gap: 12px;
}

.out {
  margin-top: 18px;
}

.left {
  gap: 4px;
  margin-top: 4px;
}

.left li {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 8px;
}

.left span {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  color: var(--ink-2);
}

.left .act {
  height: 26px;
  padding: 0 8px;
  font-size: var(--text-1);
}

.contacts {
  margin-top: 16px;
}

.contacts textarea {
  min-height: 64px;
}

.contacts .act {
  margin: 6px 6px 0 0;
}

span {
  display: flex;
  justify-content: space-between;
  gap: 8px;
  margin-bottom: 3px;
  font-size: var(--text-1);
}

b {
  font-weight: 600;
  color: var(--ink-2);
}

i {
  font-style: normal;
  color: var(--ink-3);
}

.chosen :deep(textarea:not(:focus)) {
  box-shadow: 0 0 0 1px var(--ink) inset;
}
</style>
