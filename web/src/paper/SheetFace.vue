<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { PlanCard } from '../generated/types'
import { toCssPx } from '../measures'

/** One face of a sheet as it will be printed; over it what the printer cannot reach, and where a step of cutting cuts. */
const props = defineProps<{ plan: PlanCard; picture: string | null; face: number; step: number | null }>()

const room = ref<HTMLElement>()
const { width, height } = useElementSize(room)
const size = computed(() => ({ w: toCssPx(props.plan.paper.w), h: toCssPx(props.plan.paper.h) }))
const scale = computed(() => Math.max(0.05, Math.min(width.value / size.value.w, height.value / size.value.h)))
const area = computed(() => ({
  x: toCssPx(props.plan.printable.x),
  y: toCssPx(props.plan.printable.y),
  w: toCssPx(props.plan.printable.w),
  h: toCssPx(props.plan.printable.h),
}))

/** Where the step pointed at cuts, in every part that is cut so. */
const cuts = computed(() => {
  const entry = props.step === null ? null : props.plan.steps[props.step]
  if (!entry || props.face !== 0) return []
  const { upright, size, at, parts } = entry.cuts
  return parts.flatMap((part) =>
    at.map((along) => {
      const [x, y] = [toCssPx(part.x), toCssPx(part.y)]
      const off = toCssPx(along)
      return upright
        ? { x1: x + off, x2: x + off, y1: y, y2: y + toCssPx(size.h) }
        : { x1: x, x2: x + toCssPx(size.w), y1: y + off, y2: y + off }
    }),
  )
})
</script>

<template>
  <div ref="room" class="room">
    <div class="paper" :style="{ width: `${size.w * scale}px`, height: `${size.h * scale}px` }">
      <img v-if="picture" :src="picture" alt="The sheet as it will be printed" draggable="false" />
      <svg :viewBox="`0 0 ${size.w} ${size.h}`" aria-hidden="true">
        <path
          class="reach"
          :d="`M0 0H${size.w}V${size.h}H0Z M${area.x} ${area.y}V${area.y + area.h}H${area.x + area.w}V${area.y}Z`"
          fill-rule="evenodd" />
        <template v-for="(cut, at) in cuts" :key="at">
          <line class="cut under" v-bind="cut" :stroke-width="3 / scale" />
          <line class="cut" v-bind="cut" :stroke-width="1.5 / scale" :stroke-dasharray="`${8 / scale} ${5 / scale}`" />
        </template>
      </svg>
    </div>
  </div>
</template>

<style scoped>
.room {
  flex: 1;
  width: 100%;
  min-height: 0;
  display: grid;
  place-items: center;
}

.paper {
  position: relative;
  background: #fff;
  box-shadow: 0 1px 10px rgb(0 0 0 / 0.3);
}

img,
svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}

.reach {
  fill: rgb(60 56 50 / 0.08);
}

.cut {
  stroke: var(--madder);
}

.under {
  stroke: #fff;
}
</style>
