<script setup lang="ts">
import { X } from '@lucide/vue'
import type { Effect, EffectChange } from '../generated/types'
import { RATIO_WHOLE, toRatio } from '../measures'
import { useBench } from '../stores/bench'
import AngleField from '../parts/AngleField.vue'
import ColorPick from './ColorPick.vue'
import MeasureField from '../parts/MeasureField.vue'
import ShareField from '../parts/ShareField.vue'

/** One effect of light. Lengths are shown as they are in this piece. */
const props = defineProps<{ effect: Effect; scale: number }>()
const emit = defineEmits<{ live: [change: EffectChange]; done: [change: EffectChange]; remove: [] }>()
const bench = useBench()

const names: Record<Effect['kind'], string> = {
  shadow: 'Shadow',
  innerShadow: 'Inner shadow',
  relief: 'Relief',
  cast: 'Shadow on the ground',
  contact: 'Shadow right under it',
  reflection: 'Image in the ground',
  rim: 'Rim',
}
const here = (length: number) => Math.round((length * props.scale) / RATIO_WHOLE)

function set(by: EffectChange, live = false) {
  if (live) emit('live', by)
  else emit('done', by)
}
const unit = () => bench.piece!.format.unit
const ppi = () => bench.piece!.format.ppi
</script>

<template>
  <fieldset class="effect">
    <legend>{{ names[effect.kind] }}</legend>
    <button class="tool" :aria-label="`Take away: ${names[effect.kind]}`" data-tip="Take away" @click="emit('remove')">
      <X :size="14" />
    </button>
    <template v-if="effect.kind === 'relief'">
      <div class="two">
        <AngleField label="Where the light comes from" short="Light" :value="effect.light" @done="set({ light: $event })" />
        <MeasureField
          label="Width of the rim"
          short="Rim"
          :value="here(effect.depth)"
          :unit="unit()"
          :ppi="ppi()"
          :least="0"
          @change="set({ depth: $event })" />
        <MeasureField
          label="Softness of the rim"
          short="Soft"
          :value="here(effect.blur)"
          :unit="unit()"
          :ppi="ppi()"
          :least="0"
          @change="set({ blur: $event })" />
        <button class="act" :aria-pressed="effect.pressed" @click="set({ pressed: !effect.pressed })">Pressed in</button>
      </div>
      <ShareField
        label="Strength"
        :value="(effect.strength / RATIO_WHOLE) * 100"
        @live="set({ strength: toRatio($event / 100) }, true)"
        @done="set({ strength: toRatio($event / 100) })" />
    </template>
    <template v-else-if="effect.kind === 'rim'">
      <ColorPick label="Colour" :tint="effect.tint" @live="set({ tint: $event }, true)" @done="set({ tint: $event })" />
      <div class="two">
        <MeasureField
          label="Width of the rim"
          short="Wide"
          :value="here(effect.width)"
          :unit="unit()"
          :ppi="ppi()"
          :least="0"
          @change="set({ depth: $event })" />
        <button
          class="act"
          :aria-pressed="effect.cut"
          data-tip="Its outer edge is in PDF and SVG as a line to cut along"
          @click="set({ cut: !effect.cut })">
          Cutting line
        </button>
      </div>
      <ShareField
        label="Strength"
        :value="(effect.opacity / RATIO_WHOLE) * 100"
        @live="set({ strength: toRatio($event / 100) }, true)"
        @done="set({ strength: toRatio($event / 100) })" />
    </template>
    <template v-else-if="effect.kind === 'cast' || effect.kind === 'contact' || effect.kind === 'reflection'">
      <ColorPick
        v-if="effect.kind !== 'reflection'"
        label="Colour"
        :tint="effect.tint"
        @live="set({ tint: $event }, true)"
        @done="set({ tint: $event })" />
      <div class="two">
        <AngleField v-if="effect.kind === 'cast'" label="Where it falls" short="Falls" :value="effect.turn" @done="set({ turn: $event })" />
        <MeasureField
          v-if="effect.kind === 'reflection'"
          label="Between it and its image"
          short="Gap"
          :value="here(effect.gap)"
          :unit="unit()"
          :ppi="ppi()"
          @change="set({ dy: $event })" />
        <MeasureField
          label="Softness"
          short="Soft"
          :value="here(effect.blur)"
          :unit="unit()"
          :ppi="ppi()"
          :least="0"
          @change="set({ blur: $event })" />
      </div>
      <ShareField
        v-if="effect.kind === 'cast'"
        label="Length"
        :value="Math.round((effect.length / RATIO_WHOLE) * 100)"
        :min="2"
        :max="250"
        @live="set({ length: toRatio($event / 100) }, true)"
        @done="set({ length: toRatio($event / 100) })" />
      <ShareField
        v-if="effect.kind === 'reflection'"
        label="Reach"
        :value="Math.round((effect.reach / RATIO_WHOLE) * 100)"
        @live="set({ length: toRatio($event / 100) }, true)"
        @done="set({ length: toRatio($event / 100) })" />
      <ShareField
        label="Strength"
        :value="(effect.opacity / RATIO_WHOLE) * 100"
        @live="set({ strength: toRatio($event / 100) }, true)"
        @done="set({ strength: toRatio($event / 100) })" />
      <ShareField
        label="Ground"
        :value="Math.round((effect.ground / RATIO_WHOLE) * 1000) / 10"
        :min="0"
        :max="120"
        :step="0.5"
        @live="set({ ground: toRatio($event / 100) }, true)"
        @done="set({ ground: toRatio($event / 100) })" />
    </template>
    <template v-else>
      <ColorPick label="Colour" :tint="effect.tint" @live="set({ tint: $event }, true)" @done="set({ tint: $event })" />
      <div class="two">
        <MeasureField label="To the right" short="→" :value="here(effect.dx)" :unit="unit()" :ppi="ppi()" @change="set({ dx: $event })" />
        <MeasureField label="Down" short="↓" :value="here(effect.dy)" :unit="unit()" :ppi="ppi()" @change="set({ dy: $event })" />
        <MeasureField
          label="Softness"
          short="Soft"
          :value="here(effect.blur)"
          :unit="unit()"
          :ppi="ppi()"
          :least="0"
          @change="set({ blur: $event })" />
      </div>
      <ShareField
        label="Strength"
        :value="(effect.opacity / RATIO_WHOLE) * 100"
        @live="set({ strength: toRatio($event / 100) }, true)"
        @done="set({ strength: toRatio($event / 100) })" />
    </template>
  </fieldset>
</template>

<style scoped>
.effect {
  position: relative;
  display: grid;
  gap: 6px;
  margin: 0;
  padding: 4px 0 0 8px;
  border: 0;
  border-left: 2px solid var(--rule);
}

legend {
  padding: 0;
  font-size: var(--text-1);
  font-weight: 600;
  color: var(--ink-2);
}

.effect > .tool {
  position: absolute;
  right: -6px;
  top: -24px;
}

.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 6px 8px;
}

.act[aria-pressed='true'] {
  background: var(--ink);
  color: var(--paper);
}
</style>
