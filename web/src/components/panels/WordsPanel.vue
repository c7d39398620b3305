<script setup lang="ts">
import { Plus } from '@lucide/vue'
import { computed, ref } from 'vue'
import { useBench, type Plain } from '../../stores/bench'
import DraftField from '../parts/DraftField.vue'

/** All copy of this side in reading order. Editing here and on the sheet is the same thing. */
const bench = useBench()

const names: Record<string, string> = {
  headline: 'Headline', support: 'Second line', when: 'When', where: 'Where', detail: 'Detail', price: 'Price', action: 'Call to action', contact: 'Contact', smallPrint: 'Small print', mark: 'Mark',
}
const lines = computed(() => bench.reading.map((id) => bench.plain(id)).filter((p): p is Plain => p?.content.kind === 'words'))
const text = (p: Plain) => (p.content.kind === 'words' ? p.content.text.map((run) => run.text).join('') : '')
const prompt = (p: Plain) => (p.content.kind === 'words' ? p.content.prompt : '')
const gesture = ref('')

function begin(p: Plain) {
  gesture.value = `words-${crypto.randomUUID()}`
  bench.typing = bench.cropping = null
  bench.selection = [p.item.id]
}

function change(p: Plain, text: string) {
  void bench.edit({ do: 'setWords', target: bench.contentTarget(p), text }, gesture.value)
}

async function add() {
  if (!bench.sideId) return
  const response = await bench.act({ act: 'add', side: bench.sideId, what: { kind: 'words' } })
  if (response?.made[0]) await bench.type(response.made[0])
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
      <button class="act" @click="add"><Plus :size="14" />Text</button>
    </div>
    <p v-if="!lines.length" class="quiet">There are no words on this side yet. Add a text and type on the sheet.</p>
    <ol>
      <li v-for="p in lines" :key="p.item.id" :class="{ chosen: bench.selection.includes(p.item.id) }">
        <label>
          <span><b>{{ names[p.part] ?? 'Text' }}</b><i>{{ sharing(p) }}</i></span>
          <DraftField multiline :value="text(p)" :placeholder="prompt(p)" rows="1" :data-words="p.item.id" @focus="begin(p)" @input="change(p, $event)" />
        </label>
        <p v-if="bench.drawn.get(p.item.id)?.spills" class="wrong">This does not fit its box. Make the box larger or say it in fewer words.</p>
      </li>
    </ol>
  </section>
</template>

<style scoped>
ol {
  display: grid;
  gap: 12px;
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

:deep(textarea) {
  resize: none;
  field-sizing: content;
  min-height: 30px;
}

.chosen :deep(textarea) {
  border-color: var(--ink);
}
</style>
