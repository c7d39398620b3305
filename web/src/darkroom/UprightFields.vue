<script setup lang="ts">
import { computed } from 'vue'
import type { UprightChange } from '../generated/types'
import FoldGroup from '../parts/FoldGroup.vue'
import ShareField from '../parts/ShareField.vue'
import { useBench } from '../stores/bench'

/** How the picture is set upright: turned, levelled by its own edges, or with a leaning surface seen from straight ahead. */
const props = defineProps<{ item: string; drawing: boolean }>()
const emit = defineEmits<{ draw: [corners: boolean] }>()
const bench = useBench()
const upright = computed(() => bench.plain(props.item)?.look.upright ?? null)
const MILLIONTHS = 1_000_000
const degrees = computed(() => Math.round(((upright.value?.turn ?? 0) / MILLIONTHS) * 10) / 10)
const says = computed(() =>
  [degrees.value ? `${degrees.value}°` : '', upright.value?.corners ? 'squared up' : ''].filter(Boolean).join(', '),
)
let gesture = ''
function set(change: UprightChange, live = false) {
  gesture ||= `upright-${crypto.randomUUID()}`
  void bench.act({ act: 'setUpright', item: props.item, change }, gesture)
  if (!live) gesture = ''
}
function asItCame() {
  emit('draw', false)
  set({ turn: 0, corners: null })
}
</script>

<template>
  <FoldGroup name="upright" title="Straighten" :says="says">
    <ShareField
      label="Turn"
      :value="degrees"
      :min="-45"
      :max="45"
      :step="0.1"
      unit="°"
      @live="set({ turn: Math.round($event * MILLIONTHS) }, true)"
      @done="set({ turn: Math.round($event * MILLIONTHS) })" />
    <div class="two">
      <button class="act" data-tip="Its long edges come to lie level" @click="bench.act({ act: 'levelPicture', item })">
        Level by its edges
      </button>
      <button class="act" :aria-pressed="drawing" data-tip="What leans is seen from straight ahead" @click="emit('draw', !drawing)">
        {{ drawing ? 'Done' : 'Four corners…' }}
      </button>
    </div>
    <button v-if="upright" class="link" @click="asItCame">As it came</button>
  </FoldGroup>
</template>

<style scoped>
.act[aria-pressed='true'] {
  background: var(--ink);
  color: var(--paper);
}
</style>
