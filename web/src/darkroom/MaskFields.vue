<script setup lang="ts">
import { X } from '@lucide/vue'
import { ElCheckbox } from 'element-plus'
import { computed } from 'vue'
import type { Area, Mask, MaskArea, Treatment } from '../generated/types'
import { RATIO_WHOLE, toRatio } from '../measures'
import ActMenu from '../parts/ActMenu.vue'
import ShareField from '../parts/ShareField.vue'
import type { Brush } from './drawing'

/** Where a step applies: everywhere, or in areas drawn on the picture. */
const props = defineProps<{ step: Treatment; drawing: Area['kind'] | null; brush: Brush; picture: boolean }>()
const emit = defineEmits<{
  live: [mask: Mask | null]
  done: [mask: Mask | null]
  draw: [kind: Area['kind'] | null]
  brush: [by: Partial<Brush>]
}>()
const mask = computed(() => props.step.mask ?? null)
const names: Record<Area['kind'], string> = {
  linear: 'From here to there',
  radial: 'A round part',
  light: 'Light or dark parts',
  colour: 'A colour',
  subject: 'The subject',
  brush: 'Painted',
}
const entries = computed(() =>
  (Object.keys(names) as Area['kind'][])
    .filter((kind) => kind !== 'subject' || props.picture)
    .map((value) => ({ value, name: names[value] })),
)
const hints: Partial<Record<Area['kind'], string>> = {
  linear: 'Drag on the picture, from where nothing happens to where all does.',
  radial: 'Drag on the picture, from the middle outwards.',
  colour: 'Press on the colour in the picture.',
  brush: 'Paint on the picture.',
}
const put = (by: Partial<Mask>, live = false) => (live ? emit('live', { ...mask.value!, ...by }) : emit('done', { ...mask.value!, ...by }))

function without(n: number) {
  const areas = mask.value!.areas.filter((_, at) => at !== n)
  emit('done', areas.length ? { ...mask.value!, areas } : null)
}
const withArea = (n: number, by: object): MaskArea[] =>
  mask.value!.areas.map((own, at) => (at === n ? { ...own, area: { ...own.area, ...by } as Area } : own))
const percent = (value: number) => Math.round((value / RATIO_WHOLE) * 100)
const soft = (area: Area) => ('softness' in area ? area.softness : null)
</script>

<template>
  <div class="mask">
    <ActMenu label="Only on a part" :entries="entries" @done="emit('draw', $event)">{{
      mask ? 'One part more…' : 'Only on a part…'
    }}</ActMenu>
    <p v-if="drawing" class="hint" role="status">
      {{ hints[drawing] }}
      <button class="link" @click="emit('draw', null)">{{ drawing === 'brush' ? 'Done painting' : 'Never mind' }}</button>
    </p>
    <template v-if="drawing === 'brush'">
      <ShareField
        label="Size"
        :value="Math.round(brush.radius * 1000) / 10"
        :min="0.5"
        :max="25"
        :step="0.5"
        @live="emit('brush', { radius: $event / 100 })"
        @done="emit('brush', { radius: $event / 100 })" />
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
      <ElCheckbox :model-value="brush.erases" @update:model-value="emit('brush', { erases: Boolean($event) })">Takes away</ElCheckbox>
    </template>
    <template v-if="mask">
      <ul>
        <li v-for="(one, n) in mask.areas" :key="n">
          <span
            >{{ names[one.area.kind]
            }}<template v-if="one.area.kind === 'brush'"
              >, {{ one.area.strokes.length }} {{ one.area.strokes.length === 1 ? 'stroke' : 'strokes' }}</template
            ></span
          >
          <ActMenu
            v-if="n > 0"
            label="How it joins"
            tool
            :entries="[
              { value: 'add', name: 'Added' },
              { value: 'take', name: 'Taken away' },
              { value: 'both', name: 'Only where both are' },
            ]"
            @done="
              (joins) => put({ areas: mask!.areas.map((own, at) => (at === n ? { ...own, joins: joins as MaskArea['joins'] } : own)) })
            "
            ><span class="link">{{ { add: 'added', take: 'taken away', both: 'where both are' }[one.joins] }}</span></ActMenu
          >
          <button class="tool" :aria-label="`Without the part: ${names[one.area.kind]}`" @click="without(n)"><X :size="14" /></button>
          <template v-if="one.area.kind === 'light'">
            <ShareField
              label="From"
              :value="percent(one.area.from)"
              @live="put({ areas: withArea(n, { from: toRatio($event / 100) }) }, true)"
              @done="put({ areas: withArea(n, { from: toRatio($event / 100) }) })" />
            <ShareField
              label="To"
              :value="percent(one.area.to)"
              @live="put({ areas: withArea(n, { to: toRatio($event / 100) }) }, true)"
              @done="put({ areas: withArea(n, { to: toRatio($event / 100) }) })" />
          </template>
          <ShareField
            v-if="one.area.kind === 'colour'"
            label="Reach"
            :value="percent(one.area.reach)"
            :max="40"
            @live="put({ areas: withArea(n, { reach: toRatio($event / 100) }) }, true)"
            @done="put({ areas: withArea(n, { reach: toRatio($event / 100) }) })" />
          <ShareField
            v-if="soft(one.area) !== null"
            label="Softness"
            :value="percent(soft(one.area)!)"
            @live="put({ areas: withArea(n, { softness: toRatio($event / 100) }) }, true)"
            @done="put({ areas: withArea(n, { softness: toRatio($event / 100) }) })" />
        </li>
      </ul>
      <ElCheckbox :model-value="mask.inverted" @update:model-value="put({ inverted: Boolean($event) })">Everywhere else instead</ElCheckbox>
      <ShareField
        label="Density"
        :value="percent(mask.density)"
        @live="put({ density: toRatio($event / 100) }, true)"
        @done="put({ density: toRatio($event / 100) })" />
      <ShareField
        label="Feather"
        :value="Math.round((mask.feather / RATIO_WHOLE) * 1000) / 10"
        :max="20"
        :step="0.1"
        @live="put({ feather: toRatio($event / 100) }, true)"
        @done="put({ feather: toRatio($event / 100) })" />
    </template>
  </div>
</template>

<style scoped>
.mask,
ul {
  display: grid;
  gap: 6px;
}

ul {
  margin: 0;
  padding: 0;
  list-style: none;
}

li {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px;
  font-size: var(--text-1);
}

li > span:first-child {
  flex: 1;
}

li > .share {
  flex-basis: 100%;
}

.hint {
  margin: 0;
  padding: 6px 8px;
  background: var(--paper-3);
  font-size: var(--text-1);
}
</style>
