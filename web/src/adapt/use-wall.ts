import { useDebounceFn } from '@vueuse/core'
import { computed, ref, watch, type Ref } from 'vue'
import { api } from '../api/client'
import type { Finding, Piece } from '../generated/types'
import { useBench } from '../stores/bench'

/** Height of every sheet where they are shown at one height, and the room the largest takes at true scale, in CSS pixels. */
const HIGH = 216
const WIDEST = 470
const LARGEST = 420

/** How large each piece stands on the wall, and what is the matter with it. */
export function useWall(scale: Ref<'height' | 'true'>) {
  const bench = useBench()
  const largest = computed(() =>
    Math.max(...(bench.job?.pieces ?? []).map((piece) => Math.max(piece.format.size.w, piece.format.size.h)), 1),
  )

  function box(piece: Piece): { width: number; height: number } {
    const { w, h } = piece.format.size
    if (scale.value === 'true')
      return { width: Math.max((w / largest.value) * LARGEST, 6), height: Math.max((h / largest.value) * LARGEST, 6) }
    const width = Math.min((HIGH * w) / h, WIDEST)
    return { width, height: (width * h) / w }
  }

  const findings = ref<Finding[]>([])
  const look = useDebounceFn(async () => {
    if (bench.job) findings.value = await api.findings(bench.job.id).catch(() => findings.value)
  }, 300)
  watch(() => [bench.job?.id, bench.revision], look, { immediate: true })
  return { box, findings }
}
