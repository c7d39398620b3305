<script setup lang="ts">
import { ElSlider } from 'element-plus'
import { computed, ref, watch } from 'vue'
import type { Blend, Develop, FieldCard, Texture, TextureName } from '../generated/types'
import { api } from '../api/client'
import { RATIO_WHOLE } from '../measures'
import ColorPick from '../edit/ColorPick.vue'
import ChoiceField from '../parts/ChoiceField.vue'
import FoldGroup from '../parts/FoldGroup.vue'
import NumberField from '../parts/NumberField.vue'
import CurveField from './CurveField.vue'
import { blendNames } from './names'

/** One value of a step, set in the way it is shown. */
const props = defineProps<{ field: FieldCard; develop: Develop; blends: Blend[]; textures: TextureName[] }>()
const emit = defineEmits<{ live: [by: Partial<Develop>]; done: [by: Partial<Develop>]; point: []; picture: [] }>()
const raw = computed(() => (props.develop as unknown as Record<string, unknown>)[props.field.key])
const wholes: Partial<Record<FieldCard['shown'], number>> = {
  percent: RATIO_WHOLE / 100,
  thousandths: RATIO_WHOLE / 1_000,
  stops: RATIO_WHOLE,
  plain: RATIO_WHOLE,
  kelvin: 1,
  count: 1,
  degrees: 1_000_000,
}
const whole = computed(() => wholes[props.field.shown])
const step = computed(
  () =>
    (({ stops: 0.05, plain: 0.02, kelvin: 50, thousandths: 0.1 }) as Partial<Record<FieldCard['shown'], number>>)[props.field.shown] ?? 1,
)
const unit = computed(
  () =>
    (({ percent: '%', thousandths: '‰', stops: 'EV', kelvin: 'K', degrees: '°' }) as Partial<Record<FieldCard['shown'], string>>)[
      props.field.shown
    ] ?? '',
)
const round = (value: number) => Math.round(value * 100) / 100
const value = computed(() => (whole.value ? round(Number(raw.value) / whole.value) : 0))
const now = ref(value.value)
watch(value, (next) => {
  now.value = next
})
const by = (next: unknown) => ({ [props.field.key]: next }) as Partial<Develop>
const number = (next: number) => by(Math.round(next * whole.value!))

const hues = ['Red', 'Orange', 'Yellow', 'Green', 'Cyan', 'Blue', 'Violet', 'Magenta']
const eight = computed(() => (Array.isArray(raw.value) ? (raw.value as number[]) : []))
const withHue = (n: number, next: number) => by(eight.value.map((own, at) => (at === n ? Math.round(next * (RATIO_WHOLE / 100)) : own)))
const stops = computed(() => (raw.value as { at: number; tint: string }[] | undefined) ?? [])
const withStop = (n: number, tint: string) => by(stops.value.map((own, at) => (at === n ? { ...own, tint } : own)))
/** One colour more, in the middle of the widest gap; or one fewer. */
function moreStops() {
  const list = [...stops.value]
  let widest = 0
  list.forEach((stop, n) => {
    if (n + 1 < list.length && list[n + 1]!.at - stop.at > list[widest + 1]!.at - list[widest]!.at) widest = n
  })
  list.splice(widest + 1, 0, { at: Math.round((list[widest]!.at + list[widest + 1]!.at) / 2), tint: list[widest]!.tint })
  emit('done', by(list))
}
</script>

<template>
  <div v-if="whole" class="share">
    <span>{{ field.name }}</span>
    <ElSlider
      v-model="now"
      :min="field.low"
      :max="field.high"
      :step="step"
      :show-tooltip="false"
      :aria-label="field.name"
      @input="(v) => emit('live', number(v as number))"
      @change="(v) => emit('done', number(v as number))" />
    <NumberField :label="field.name" :value="now" :least="field.low" :most="field.high" :unit="unit" @done="emit('done', number($event))" />
  </div>
  <ColorPick
    v-else-if="field.shown === 'colour'"
    :label="field.name"
    :tint="String(raw)"
    @live="emit('live', by($event))"
    @done="emit('done', by($event))" />
  <ChoiceField
    v-else-if="field.shown === 'blend'"
    :label="field.name"
    :value="raw as Blend"
    :choices="blends.map((value) => ({ value, name: blendNames[value] }))"
    @done="emit('done', by($event))" />
  <ChoiceField
    v-else-if="field.shown === 'texture'"
    :label="field.name"
    :value="raw as Texture"
    :choices="textures"
    @done="emit('done', by($event))" />
  <div v-else-if="field.shown === 'picture'" class="point">
    <img :src="api.media(String(raw), 160)" alt="" /><button class="act" @click="emit('picture')">Another picture…</button>
  </div>
  <div v-else-if="field.shown === 'point'" class="point">
    <span>{{ field.name }}</span><button class="act" @click="emit('point')">Point at it…</button>
  </div>
  <CurveField
    v-else-if="field.shown === 'curves' && develop.kind === 'curves'"
    :develop="develop"
    @live="emit('live', $event)"
    @done="emit('done', $event)" />
  <div v-else-if="field.shown === 'gradient'" class="stops">
    <ColorPick
      v-for="(stop, n) in stops"
      :key="n"
      :label="n === 0 ? 'Dark' : n === stops.length - 1 ? 'Light' : `Between ${n}`"
      :tint="stop.tint"
      @live="emit('live', withStop(n, $event))"
      @done="emit('done', withStop(n, $event))" />
    <div class="two">
      <button class="act" :disabled="stops.length >= 6" @click="moreStops">One more colour</button
      ><button class="act" :disabled="stops.length < 3" @click="emit('done', by([...stops.slice(0, 1), ...stops.slice(2)]))">
        One fewer
      </button>
    </div>
  </div>
  <FoldGroup
    v-else-if="field.shown === 'hues'"
    :name="`hues-${field.key}`"
    :title="field.name"
    :says="eight.some((own) => own !== 0) ? 'set' : ''">
    <div v-for="(name, n) in hues" :key="name" class="share">
      <span>{{ name }}</span>
      <ElSlider
        :model-value="Math.round((eight[n] ?? 0) / (RATIO_WHOLE / 100))"
        :min="field.low"
        :max="field.high"
        :show-tooltip="false"
        :aria-label="`${field.name}, ${name}`"
        @input="(v) => emit('live', withHue(n, v as number))"
        @change="(v) => emit('done', withHue(n, v as number))" />
      <NumberField
        :label="`${field.name}, ${name}`"
        :value="Math.round((eight[n] ?? 0) / (RATIO_WHOLE / 100))"
        :least="field.low"
        :most="field.high"
        @done="emit('done', withHue(n, $event))" />
    </div>
  </FoldGroup>
</template>

<style scoped>
.share {
  display: grid;
  grid-template-columns: 84px 1fr 70px;
  align-items: center;
  gap: 10px;
}

.share > span,
.point > span {
  color: var(--ink-3);
  font-size: var(--text-1);
}

.point {
  display: grid;
  grid-template-columns: 84px 1fr;
  align-items: center;
  gap: 10px;
}

.point > img {
  width: 84px;
  height: 56px;
  object-fit: cover;
}

.stops {
  display: grid;
  gap: 6px;
}

:deep(.el-input__inner) {
  text-align: right;
}
</style>
