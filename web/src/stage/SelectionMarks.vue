<script setup lang="ts">
import { computed } from 'vue'
import type { Frame } from '../generated/types'
import { ALL_GRIPS, around, gripCursor, middle, toSheet, turned, type Dot, type Grip } from './geometry'
import type { Viewport } from './use-viewport'

/** Outlines and handles of what is selected, drawn in pixels of the screen so that they keep their size. */
const props = defineProps<{
  viewport: Viewport
  frames: { id: string; frame: Frame }[]
  hover: Frame | null
  /** Which handles the selection has: all eight, without top and bottom, or none. */
  grips: 'all' | 'sides' | 'corners' | 'none'
  crop: boolean
  /** Whether it can be turned now. */
  turns: boolean
}>()
const emit = defineEmits<{ grip: [event: PointerEvent, grip: Grip]; turn: [event: PointerEvent] }>()

function outline(frame: Frame): string {
  const corners: Dot[] = [
    { x: 0, y: 0 },
    { x: frame.w, y: 0 },
    { x: frame.w, y: frame.h },
    { x: 0, y: frame.h },
  ]
  return corners
    .map((corner) => props.viewport.toScreen(toSheet(frame, corner)))
    .map((p) => `${p.x},${p.y}`)
    .join(' ')
}

/** What the handles stand on: the one frame, or the box around several. */
const only = computed(() => (props.frames.length === 1 ? props.frames[0]!.frame : around(props.frames.map((entry) => entry.frame))))

/** Handles of what is small stand off it, so that it can still be seen and taken hold of between them. */
const ROOM = 30
const off = (length: number) => Math.max(0, ROOM / props.viewport.view.scale - length) / 2

const shownGrips = computed(() => {
  const frame = only.value
  if (!frame || props.grips === 'none') return []
  const small = Math.min(frame.w, frame.h) * props.viewport.view.scale < 28
  return ALL_GRIPS.filter(
    (grip) =>
      (props.grips !== 'corners' || (grip.h !== 0 && grip.v !== 0)) &&
      (props.grips === 'all' || grip.h !== 0) &&
      (!small || (grip.h && grip.v) || (props.grips === 'sides' && grip.v === 0)),
  ).map((grip) => {
    const at = { x: (frame.w * (grip.h + 1)) / 2 + grip.h * off(frame.w), y: (frame.h * (grip.v + 1)) / 2 + grip.v * off(frame.h) }
    return {
      grip,
      at: props.viewport.toScreen(toSheet(frame, at)),
      corner: grip.h !== 0 && grip.v !== 0,
      cursor: gripCursor(grip, frame.turn),
    }
  })
})

/** The turning handle stands off the bottom edge, where it covers neither words nor the bar. */
const turner = computed(() => {
  const frame = only.value
  if (!frame || !props.turns) return null
  const edge = props.viewport.toScreen(toSheet(frame, { x: frame.w / 2, y: frame.h + off(frame.h) }))
  const out = turned({ x: 0, y: 26 }, frame.turn)
  return { edge, at: { x: edge.x + out.x, y: edge.y + out.y } }
})

const centre = computed(() => (only.value ? props.viewport.toScreen(middle(only.value)) : null))
</script>

<template>
  <g>
    <g v-if="hover" class="hover">
      <polygon :points="outline(hover)" class="under" />
      <polygon :points="outline(hover)" class="over" />
    </g>
    <g v-for="entry in frames" :key="entry.id" class="chosen" :class="{ crop }" :data-chosen="entry.id">
      <polygon :points="outline(entry.frame)" class="under" />
      <polygon :points="outline(entry.frame)" class="over" />
    </g>
    <polygon v-if="frames.length > 1 && only" :points="outline(only)" class="whole" />
    <template v-if="turner">
      <line :x1="turner.edge.x" :y1="turner.edge.y" :x2="turner.at.x" :y2="turner.at.y" class="stem under" />
      <line :x1="turner.edge.x" :y1="turner.edge.y" :x2="turner.at.x" :y2="turner.at.y" class="stem over" />
      <g
        class="turner"
        :transform="`translate(${turner.at.x} ${turner.at.y})`"
        role="button"
        aria-label="Turn"
        data-turn
        @pointerdown.stop="emit('turn', $event)">
        <circle r="9" />
        <path d="M-3.6 -2.2A4.2 4.2 0 1 1 -4.1 1.2M-3.9 -5.2V-2H-.7" />
      </g>
    </template>
    <circle v-if="centre && turner" :cx="centre.x" :cy="centre.y" r="1.6" class="pin" />
    <rect
      v-for="{ grip, at, corner, cursor } in shownGrips"
      :key="`${grip.h}${grip.v}`"
      :x="at.x - (corner ? 5 : 4)"
      :y="at.y - (corner ? 5 : 4)"
      :width="corner ? 10 : 8"
      :height="corner ? 10 : 8"
      :transform="`rotate(${(only?.turn ?? 0) + (corner ? 0 : 45)} ${at.x} ${at.y})`"
      :style="{ cursor }"
      class="grip"
      :data-grip="`${grip.h},${grip.v}`"
      @pointerdown.stop="emit('grip', $event, grip)" />
  </g>
</template>

<style scoped>
polygon,
line {
  fill: none;
  pointer-events: none;
}

.under {
  stroke: var(--mark-light);
  stroke-width: 3.5;
}

.over {
  stroke: var(--mark-dark);
  stroke-width: 1.5;
}

.hover .under {
  stroke-width: 3;
}

.hover .over {
  stroke-width: 1;
  stroke-dasharray: 5 3;
}

.whole {
  stroke: var(--mark-dark);
  stroke-width: 1;
  stroke-dasharray: 2 4;
}

.chosen.crop .over {
  stroke-width: 2.5;
}

.stem.under {
  stroke-width: 3;
}

.stem.over {
  stroke-width: 1;
}

.grip {
  fill: var(--mark-light);
  stroke: var(--mark-dark);
  stroke-width: 1.5;
  pointer-events: all;
  touch-action: none;
}

.turner {
  cursor: grab;
  pointer-events: all;
  touch-action: none;
}

.turner circle {
  fill: var(--mark-light);
  stroke: var(--mark-dark);
  stroke-width: 1.5;
}

.turner path {
  fill: none;
  stroke: var(--mark-dark);
  stroke-width: 1.4;
}

.pin {
  fill: var(--mark-dark);
  stroke: var(--mark-light);
  stroke-width: 1;
  pointer-events: none;
}
</style>
