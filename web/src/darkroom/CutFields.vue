<script setup lang="ts">
import { ElProgress } from 'element-plus'
import { computed } from 'vue'
import type { CutChange, CutStroke } from '../generated/types'
import { RATIO_WHOLE, toRatio } from '../measures'
import ActMenu from '../parts/ActMenu.vue'
import ShareField from '../parts/ShareField.vue'
import { useBench } from '../stores/bench'
import type { Brush } from './drawing'
import { useSubject } from './use-subject'

/** What of a picture is seen: its subject, found and refined by strokes, and what a brush hides or brings back. */
const props = defineProps<{ item: string; drawing: CutStroke | null; brush: Brush }>()
const emit = defineEmits<{ draw: [kind: CutStroke | null]; brush: [by: Partial<Brush>] }>()
const bench = useBench()
const subject = useSubject(() => props.item)
defineExpose({ cut: subject.cut, find: subject.find })

const cut = computed(() => bench.plain(props.item)?.look.cut_out ?? null)
const says: Record<CutStroke, string> = {
  keep: 'Paint over what belongs to the subject.',
  remove: 'Paint over what does not belong to it.',
  hide: 'Paint over what is to be hidden.',
  show: 'Paint over what is to be seen again.',
}
const painted = computed(() => props.drawing === 'hide' || props.drawing === 'show')

type Deed = CutStroke | 'find' | 'front' | 'whole'
const deeds = computed<{ value: Deed; name: string; apart?: boolean }[]>(() => [
  { value: 'find', name: cut.value?.mask ? 'Find the subject anew' : 'Find the subject' },
  ...(cut.value?.mask
    ? [
        { value: 'keep' as const, name: 'This belongs to it…', apart: true },
        { value: 'remove' as const, name: 'This does not…' },
      ]
    : []),
  { value: 'hide', name: 'Hide by brush…', apart: true },
  ...(cut.value ? [{ value: 'show' as const, name: 'Bring back by brush…' }] : []),
  { value: 'front', name: 'Subject in front of the words', apart: true },
  ...(cut.value ? [{ value: 'whole' as const, name: 'Show the whole picture', apart: true }] : []),
])
async function does(deed: Deed) {
  if (deed === 'find') await subject.cut()
  else if (deed === 'front') await subject.front()
  else if (deed === 'whole') await bench.act({ act: 'showWhole', item: props.item })
  else emit('draw', deed)
}
let gesture = ''
function set(change: CutChange, live = false) {
  gesture ||= `cut-${crypto.randomUUID()}`
  void bench.act({ act: 'changeCut', item: props.item, change }, gesture)
  if (!live) gesture = ''
}
const thousandths = (value: number) => Math.round((value / RATIO_WHOLE) * 10_000) / 10
</script>

<template>
  <section class="cut" aria-label="What is seen of the picture">
    <div class="head">
      <span>{{ cut?.mask ? 'Its subject is seen' : cut ? 'Parts are hidden' : 'All of it is seen' }}</span>
      <ActMenu label="Cut out" :entries="deeds" :disabled="subject.finding.value" @done="does">Cut out…</ActMenu>
    </div>
    <div v-if="subject.finding.value" class="wait" role="status">
      <ElProgress :percentage="subject.share.value" :show-text="false" aria-label="Looking for the subject" /><button
        class="link"
        @click="subject.giveUp()">
        Give up
      </button>
    </div>
    <template v-if="drawing">
      <p class="hint" role="status">{{ says[drawing] }} <button class="link" @click="emit('draw', null)">Done</button></p>
      <ShareField
        label="Size"
        :value="Math.round(brush.radius * 1000) / 10"
        :min="0.5"
        :max="25"
        :step="0.5"
        @live="emit('brush', { radius: $event / 100 })"
        @done="emit('brush', { radius: $event / 100 })" />
      <template v-if="painted">
        <ShareField
          label="Hard"
          :value="Math.round(brush.hardness * 100)"
          @live="emit('brush', { hardness: $event / 100 })"
          @done="emit('brush', { hardness: $event / 100 })" />
        <ShareField
          label="Strength"
          :value="Math.round(brush.strength * 100)"
          :min="1"
          @live="emit('brush', { strength: $event / 100 })"
          @done="emit('brush', { strength: $event / 100 })" />
      </template>
    </template>
    <template v-else-if="cut?.mask">
      <ShareField
        label="Edge out"
        :value="thousandths(cut.shift)"
        :min="-10"
        :max="10"
        :step="0.1"
        unit="‰"
        @live="set({ shift: toRatio($event / 1000) }, true)"
        @done="set({ shift: toRatio($event / 1000) })" />
      <ShareField
        label="Soft edge"
        :value="thousandths(cut.softness)"
        :max="20"
        :step="0.1"
        unit="‰"
        @live="set({ softness: toRatio($event / 1000) }, true)"
        @done="set({ softness: toRatio($event / 1000) })" />
    </template>
  </section>
</template>

<style scoped>
.cut {
  display: grid;
  gap: 6px;
}

.head,
.wait {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 8px;
}

.wait > :first-child {
  flex: 1;
}

.hint {
  margin: 0;
  padding: 6px 8px;
  background: var(--paper-3);
  font-size: var(--text-1);
}
</style>
