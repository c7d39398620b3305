<script setup lang="ts">
import { ElPopover } from 'element-plus'
import { computed, nextTick, ref, watch } from 'vue'
import { useShelf } from '../../stores/shelf'

/** Families by kind and name, each showing the person's own words. */
const props = defineProps<{ family: string; words: string }>()
const emit = defineEmits<{ pick: [family: string] }>()

const shelf = useShelf()
const open = ref(false)
const typed = ref('')
const list = ref<HTMLElement>()

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
      <button class="chip" :aria-label="`Family: ${family}`" :aria-expanded="open">{{ family }}</button>
    </template>
    <div @keydown.stop @keydown.escape="open = false">
      <input v-model="typed" class="field" aria-label="Find a family by name or mood" placeholder="name or mood: hand, serif, loud" />
      <ul ref="list" class="scroll" aria-label="Families">
        <li v-for="entry in found" :key="entry.family">
          <button :aria-pressed="entry.family === family" :data-family="entry.family" @click="emit('pick', entry.family); open = false">
            <span :style="{ fontFamily: `'specimen ${entry.family}'` }">{{ words || entry.family }}</span>
            <small>{{ entry.family }} · {{ entry.moods[0] }}</small>
          </button>
        </li>
      </ul>
      <p v-if="!found.length" class="quiet">No family is called that. Try a mood such as “hand” or “condensed”.</p>
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
  max-height: 420px;
  margin: 8px -12px -12px;
}

li button {
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
