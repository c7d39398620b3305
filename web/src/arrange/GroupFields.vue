<script setup lang="ts">
import { computed } from 'vue'
import type { Blend, GroupChange, GroupLight } from '../generated/types'
import { RATIO_WHOLE, toRatio } from '../measures'
import { blendNames } from '../darkroom/names'
import ChoiceField from '../parts/ChoiceField.vue'
import FoldGroup from '../parts/FoldGroup.vue'
import EffectFields from '../edit/EffectFields.vue'
import ShareField from '../parts/ShareField.vue'
import { useBench } from '../stores/bench'

/** A group as a whole: faded, mixed and treated as one thing, whatever its members look like. */
const props = defineProps<{ group: string }>()
const bench = useBench()
const look = computed(() => bench.side?.group_looks?.find((look) => look.group === props.group) ?? null)
const blends = (Object.entries(blendNames) as [Blend, string][]).map(([value, name]) => ({ value, name }))
const says = computed(() => {
  const own = look.value
  if (!own) return ''
  const steps = own.treatments?.length ?? 0
  return [
    own.opacity < RATIO_WHOLE ? `${Math.round((own.opacity / RATIO_WHOLE) * 100)} %` : '',
    own.blend !== 'normal' ? blendNames[own.blend].toLowerCase() : '',
    steps ? `${steps} ${steps === 1 ? 'step' : 'steps'}` : '',
    own.effects?.length ? 'shadow' : '',
  ]
    .filter(Boolean)
    .join(', ')
})
let shining = ''
function light(to: GroupLight, live = false) {
  shining ||= `light-${crypto.randomUUID()}`
  void bench.act({ act: 'lightGroup', group: props.group, light: to }, shining)
  if (!live) shining = ''
}
let gesture = ''
function set(change: GroupChange, live = false) {
  gesture ||= `group-${crypto.randomUUID()}`
  void bench.act({ act: 'changeGroupLook', group: props.group, change }, gesture)
  if (!live) gesture = ''
}
</script>

<template>
  <FoldGroup name="group" title="Group as a whole" :says="says">
    <ShareField
      label="Opacity"
      :value="((look?.opacity ?? RATIO_WHOLE) / RATIO_WHOLE) * 100"
      @live="set({ opacity: toRatio($event / 100) }, true)"
      @done="set({ opacity: toRatio($event / 100) })" />
    <ChoiceField label="Mixes by" :value="look?.blend ?? 'normal'" :choices="blends" @done="(blend) => set({ blend })" />
    <button
      class="act"
      data-tip="Treats all of it together, changeable for ever"
      @click="bench.darkroom = { item: bench.selection[0]!, group }">
      Darkroom…<small v-if="look?.treatments?.length" class="count">{{ look.treatments.length }}</small>
    </button>
    <EffectFields
      v-for="(effect, index) in look?.effects ?? []"
      :key="index"
      :effect="effect"
      :scale="RATIO_WHOLE"
      @live="light({ what: 'change', index, change: $event }, true)"
      @done="light({ what: 'change', index, change: $event })"
      @remove="light({ what: 'drop', index })" />
    <button v-if="!look?.effects?.length" class="act" @click="light({ what: 'give' })">Give it a shadow</button>
  </FoldGroup>
</template>
