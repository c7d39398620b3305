<script setup lang="ts">
import { useTimeoutFn } from '@vueuse/core'
import { Redo2, Undo2 } from '@lucide/vue'
import { ElInput } from 'element-plus'
import { computed, nextTick, ref, watch } from 'vue'
import { useBench } from '../stores/bench'
import VatmanMark from '../parts/VatmanMark.vue'

/** The bar over every view of a job: its name, whether it is kept, the route through the work, undo and redo. */
const props = defineProps<{ step: string; job: string }>()
const bench = useBench()

const steps: { step: string; label: string; view?: string }[] = [
  { step: 'words', label: 'Words' },
  { step: 'pictures', label: 'Pictures' },
  { step: 'layout', label: 'Layout' },
  { step: 'look', label: 'Look' },
  { step: 'sizes', label: 'Sizes', view: 'sizes' },
  { step: 'check', label: 'Check', view: 'check' },
]

/** Only what takes a while is said to be under way: the rest is kept before one could read it. */
const slow = ref(false)
const wait = useTimeoutFn(
  () => {
    slow.value = true
  },
  300,
  { immediate: false },
)
watch(
  () => bench.saving > 0,
  (saving) => {
    if (saving) return wait.start()
    wait.stop()
    slow.value = false
  },
)

const kept = computed(() => {
  if (bench.failed) return 'last change not kept'
  if (slow.value) return 'keeping…'
  return `kept ${new Date(bench.keptAt).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit', hour12: false })}`
})

const renaming = ref(false)
const title = ref('')
const field = ref<InstanceType<typeof ElInput>>()

function key(event: Event | KeyboardEvent) {
  event.stopPropagation()
  if (!(event instanceof KeyboardEvent)) return
  if (event.key === 'Enter') finish(true)
  if (event.key === 'Escape') finish(false)
}

async function rename() {
  title.value = bench.job?.title ?? ''
  renaming.value = true
  await nextTick()
  field.value?.select()
}

function finish(keep: boolean) {
  if (!renaming.value) return
  renaming.value = false
  const wanted = title.value.trim()
  if (keep && wanted && wanted !== bench.job?.title) void bench.act({ act: 'setTitle', title: wanted })
}
</script>

<template>
  <header class="bar">
    <RouterLink :to="{ name: 'board' }" class="home" aria-label="To the board"><VatmanMark /></RouterLink>
    <ElInput
      v-if="renaming"
      ref="field"
      v-model="title"
      class="name"
      aria-label="Name of the job"
      maxlength="200"
      @blur="finish(true)"
      @keydown="key" />
    <button v-else class="title" title="Rename the job" @click="rename">{{ bench.job?.title }}</button>
    <span class="kept" :class="{ wrong: bench.failed }" :data-saving="bench.saving" :data-revision="bench.revision" aria-live="polite">{{
      kept
    }}</span>
    <nav aria-label="Steps">
      <RouterLink
        v-for="entry in steps"
        :key="entry.step"
        :to="
          entry.view ? { name: entry.view, params: { job: props.job } } : { name: 'bench', params: { job: props.job, step: entry.step } }
        "
        :aria-current="props.step === entry.step ? 'step' : undefined">
        {{ entry.label }}
      </RouterLink>
    </nav>
    <button class="tool" aria-label="Undo" :disabled="!bench.canUndo" @click="bench.act({ act: 'undo' })"><Undo2 :size="17" /></button>
    <button class="tool" aria-label="Redo" :disabled="!bench.canRedo" @click="bench.act({ act: 'redo' })"><Redo2 :size="17" /></button>
    <RouterLink
      class="act"
      :class="{ next: !['sizes', 'hand-over'].includes(props.step) }"
      :to="{ name: 'hand-over', params: { job: props.job } }"
      :aria-current="props.step === 'hand-over' ? 'step' : undefined"
      >Hand over</RouterLink
    >
  </header>
</template>

<style scoped>
.bar {
  display: flex;
  align-items: center;
  gap: 8px;
  height: var(--bar);
  padding: 0 12px 0 10px;
  background: var(--paper);
  border-bottom: 1px solid var(--rule);
}

.home {
  display: grid;
  color: var(--ink);
}

.title,
.name {
  max-width: 260px;
  font-size: var(--text-3);
  font-weight: 600;
}

.title {
  padding: 4px 6px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  border-radius: 2px;
}

.title:hover {
  background: var(--paper-3);
}

.kept {
  color: var(--ink-3);
  font-size: var(--text-1);
  white-space: nowrap;
  min-width: 84px;
}

nav {
  display: flex;
  justify-content: center;
  flex: 1;
  height: 100%;
}

nav a {
  display: grid;
  place-items: center;
  padding: 0 16px;
  color: var(--ink-2);
  text-decoration: none;
  font-weight: 500;
}

nav a:hover {
  color: var(--ink);
}

nav a[aria-current] {
  color: var(--ink);
  font-weight: 650;
  box-shadow: inset 0 -3px var(--ink);
}

.act {
  margin-left: 8px;
  text-decoration: none;
}
</style>
