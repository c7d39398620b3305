import { useElementSize } from '@vueuse/core'
import { computed, reactive, watch, type Ref } from 'vue'
import type { Dot } from './geometry'

const LEAST = 0.02
const MOST = 32
const MARGIN = 32

/** Where the sheet lies in the stage element and at what scale. */
export function useViewport(element: Ref<HTMLElement | undefined>, sheet: Ref<{ width: number; height: number; bleed: number }>) {
  const { width, height } = useElementSize(element)
  const view = reactive({ x: 0, y: 0, scale: 1, fitted: true })

  function fit() {
    const { width: w, height: h } = sheet.value
    if (!w || !h || !width.value || !height.value) return
    const bleed = sheet.value.bleed
    view.scale = Math.min((width.value - 2 * MARGIN) / (w + 2 * bleed), (height.value - 2 * MARGIN) / (h + 2 * bleed), 4)
    view.x = (width.value - w * view.scale) / 2
    view.y = (height.value - h * view.scale) / 2
    view.fitted = true
  }

  function zoom(factor: number, about?: Dot) {
    const at = about ?? { x: width.value / 2, y: height.value / 2 }
    const scale = Math.min(MOST, Math.max(LEAST, view.scale * factor))
    view.x = at.x - ((at.x - view.x) * scale) / view.scale
    view.y = at.y - ((at.y - view.y) * scale) / view.scale
    view.scale = scale
    view.fitted = false
  }

  function pan(dx: number, dy: number) {
    view.x += dx
    view.y += dy
    view.fitted = false
  }

  watch([width, height, () => sheet.value.width, () => sheet.value.height], () => {
    if (view.fitted) fit()
  })
  watch(() => [sheet.value.width, sheet.value.height], fit)

  const toSheet = (p: Dot): Dot => ({ x: (p.x - view.x) / view.scale, y: (p.y - view.y) / view.scale })
  const toScreen = (p: Dot): Dot => ({ x: p.x * view.scale + view.x, y: p.y * view.scale + view.y })
  const percent = computed(() => Math.round(view.scale * 100))

  return { view, width, height, fit, zoom, pan, toSheet, toScreen, percent }
}

export type Viewport = ReturnType<typeof useViewport>
