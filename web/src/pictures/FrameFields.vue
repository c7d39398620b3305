<script setup lang="ts">
import { computed } from 'vue'
import type { Content, Outline } from '../generated/types'
import ActMenu from '../parts/ActMenu.vue'
import ChoiceField from '../parts/ChoiceField.vue'
import FoldGroup from '../parts/FoldGroup.vue'
import { frameShapes } from '../edit/frame-shapes'
import OutlineFields from '../edit/OutlineFields.vue'
import { useBench, type Plain } from '../stores/bench'

/** The outline a picture is seen in. */
const props = defineProps<{ plain: Plain }>()
const bench = useBench()

const frame = computed(() => (props.plain.content as Extract<Content, { kind: 'picture' }>).frame)
const shape = computed(() => frameShapes.find((entry) => entry.value === frame.value.kind)?.value ?? 'own')
const shapes = computed(() =>
  shape.value === 'own' ? [...frameShapes, { value: 'own', name: 'As it is', outline: frame.value }] : frameShapes,
)
const says = computed(() => shapes.value.find((entry) => entry.value === shape.value)?.name.toLowerCase() ?? '')
const setFrame = (outline: Outline) => bench.act({ act: 'setOutline', item: props.plain.item.id, outline })

/** Proportions a frame is cut to; the picture keeps its middle. */
const proportions: { value: string; name: string }[] = [
  { value: '0:0', name: 'As the picture' },
  { value: '1:1', name: 'Square' },
  { value: '4:5', name: '4 : 5' },
  { value: '2:3', name: '2 : 3' },
  { value: '3:2', name: '3 : 2' },
  { value: '4:3', name: '4 : 3' },
  { value: '16:9', name: '16 : 9' },
  { value: '9:16', name: '9 : 16' },
]
function cutTo(proportion: string) {
  const [across, down] = proportion.split(':').map(Number)
  void bench.act({ act: 'cutTo', item: props.plain.item.id, across: across!, down: down! })
}

/** The outline of a shape, another frame or of letters becomes the frame. */
function frameFrom() {
  const frame = props.plain.item.id
  bench.point({
    say: 'Point at the shape or the words whose outline becomes the frame.',
    what: 'item',
    take: (from) => {
      bench.selection = [frame]
      void bench.act({ act: 'frameFrom', frame, from })
    },
  })
}
</script>

<template>
  <FoldGroup name="frame" title="Frame" :says="says">
    <ChoiceField label="Frame" :value="shape" :choices="shapes" @done="setFrame(shapes.find((entry) => entry.value === $event)!.outline)" />
    <OutlineFields :key="plain.item.id" :plain="plain" />
    <ActMenu label="Cut to" :entries="proportions" @done="cutTo">Cut to proportions…</ActMenu>
    <button class="act" data-tip="The outline of a shape or of letters becomes the frame" @click="frameFrom">Frame from an item…</button>
  </FoldGroup>
</template>
