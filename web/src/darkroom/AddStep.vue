<script setup lang="ts">
import { ElInput } from 'element-plus'
import { computed, nextTick, ref } from 'vue'
import type { KindCard } from '../generated/types'

/** What can be done, by what people wish for: found by words, and under each wish. */
const props = defineProps<{ kinds: KindCard[]; full: boolean }>()
const emit = defineEmits<{ add: [kind: string] }>()
const open = ref(false)
const words = ref('')
const input = ref<InstanceType<typeof ElInput>>()
const found = computed(() => {
  const asked = words.value.toLowerCase().split(/\s+/).filter(Boolean)
  const fits = (card: KindCard) => asked.every((word) => `${card.name} ${card.wish} ${card.words}`.toLowerCase().includes(word))
  const groups = new Map<string, KindCard[]>()
  props.kinds.filter(fits).forEach((card) => groups.set(card.wish, [...(groups.get(card.wish) ?? []), card]))
  return [...groups]
})
async function show() {
  open.value = !open.value
  words.value = ''
  if (open.value) {
    await nextTick()
    input.value?.focus()
  }
}
function take(kind: string) {
  open.value = false
  emit('add', kind)
}
function first() {
  const one = found.value[0]?.[1][0]
  if (one) take(one.kind)
}
</script>

<template>
  <div class="adding">
    <button class="act" :disabled="full" :aria-expanded="open" @click="show">{{ full ? 'No room for more steps' : 'Add a step' }}</button>
    <div v-if="open" class="list" @keydown.esc.stop="open = false">
      <ElInput
        ref="input"
        v-model="words"
        placeholder="Lighter, warmer, older…"
        aria-label="Find a step"
        clearable
        @keydown.enter.prevent.stop="first" />
      <div v-for="[wish, cards] in found" :key="wish" class="wish">
        <h4>{{ wish }}</h4>
        <button v-for="card in cards" :key="card.kind" class="act" :data-kind="card.kind" @click="take(card.kind)">{{ card.name }}</button>
      </div>
      <p v-if="!found.length" class="quiet">Nothing is called that here. Try what you want to see: lighter, sharper, grey.</p>
    </div>
  </div>
</template>

<style scoped>
/* The list takes the width of the panel, below the button and what stands beside it. */
.adding {
  display: contents;
}

.list {
  grid-column: 1 / -1;
  grid-row: 2;
  display: grid;
  gap: 8px;
}

.wish {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
}

h4 {
  flex-basis: 100%;
  margin: 4px 0 0;
  color: var(--ink-3);
  font-size: var(--text-1);
  font-weight: 600;
}
</style>
