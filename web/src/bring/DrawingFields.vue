<script setup lang="ts">
import { computed } from 'vue'
import type { Paint, Tint } from '../generated/types'
import { RATIO_WHOLE } from '../measures'
import { useBench, type Plain } from '../stores/bench'
import PaintPick from '../edit/PaintPick.vue'

/** The colours of a drawing, each of which can become another everywhere in it. */
const props = defineProps<{ plain: Plain }>()
const bench = useBench()
const drawing = computed(() => (props.plain.content.kind === 'drawing' ? props.plain.content.drawing : null))

const colours = computed(() => bench.drawn.get(props.plain.item.id)?.colours ?? [])

/** What a colour of the list has become while the hand is still choosing. */
const become = new Map<Tint, Tint>()
let gesture = ''
let turn = 0

function begin() {
  gesture = `drawing-${crypto.randomUUID()}`
  become.clear()
}

function repaint(from: Tint, to: Paint | null) {
  if (!to) return
  const now = become.get(from) ?? from
  if (to.kind === 'flat') become.set(from, to.tint)
  // Each says only its own change, so none may be passed over.
  turn += 1
  void bench.act({ act: 'repaint', item: props.plain.item.id, from: now, to }, `${gesture}-${turn}`)
}
</script>

<template>
  <section v-if="drawing" @pointerdown.capture="begin">
    <h3>Colours of {{ drawing.name || 'the drawing' }}</h3>
    <PaintPick
      v-for="(tint, i) in colours"
      :key="i"
      :label="`Part ${i + 1}`"
      :paint="{ kind: 'flat', tint, opacity: RATIO_WHOLE }"
      compact
      @done="repaint(tint, $event)"
      @live="repaint(tint, $event)" />
    <button class="act" @click="bench.act({ act: 'mapColours', item: plain.item.id })">Use the colours of this job</button>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 6px;
}
</style>
