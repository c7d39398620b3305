<script setup lang="ts">
import { ElTooltip } from 'element-plus'
import { useEventListener, useTimeoutFn } from '@vueuse/core'
import { ref } from 'vue'

/** One tooltip for all tools: it says what a tool is called, or what its `data-tip` says, after a moment. */
const over = ref<HTMLElement>()
const says = ref('')
const shown = ref(false)
const { start, stop } = useTimeoutFn(
  () => {
    shown.value = !!over.value?.isConnected
  },
  450,
  { immediate: false },
)

function at(event: Event) {
  const tool = (event.target as Element | null)?.closest?.<HTMLElement>('[data-tip], .tool[aria-label]')
  if (tool === over.value) return
  stop()
  shown.value = false
  over.value = tool ?? undefined
  if (!tool) return
  says.value = tool.dataset.tip ?? tool.getAttribute('aria-label') ?? ''
  start()
}

function away() {
  stop()
  shown.value = false
}

useEventListener(document, 'pointerover', at)
useEventListener(document, 'focusin', (event) => {
  if ((event.target as Element).matches(':focus-visible')) at(event)
})
useEventListener(document, 'focusout', away)
useEventListener(document, 'pointerdown', away, { capture: true })
</script>

<template>
  <ElTooltip
    v-if="over"
    :key="says"
    :visible="shown"
    :virtual-ref="over"
    virtual-triggering
    :content="says"
    placement="bottom"
    :show-arrow="false"
    :enterable="false"
    popper-class="tip" />
</template>
