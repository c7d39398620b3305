<script setup lang="ts">
import { ElInput } from 'element-plus'
import { nextTick, ref, watch } from 'vue'

/**
 * A text field that keeps what is being typed, whatever the page draws anew meanwhile. `input` follows every letter, `done` comes once;
 * on leaving, the field shows the kept value again.
 */
defineOptions({ inheritAttrs: false })
const props = defineProps<{ value: string; multiline?: boolean }>()
const emit = defineEmits<{ input: [text: string]; done: [text: string]; focus: [] }>()

const draft = ref(props.value)
let focused = false
/** Texts handed on that have not come back yet: their echo is no news. */
let handedOn: string[] = []

watch(
  () => props.value,
  (value) => {
    const echo = focused ? handedOn.lastIndexOf(value) : -1
    if (echo >= 0) handedOn = handedOn.slice(echo + 1)
    else {
      handedOn = []
      draft.value = value
    }
  },
)

function enter() {
  focused = true
  handedOn = []
  emit('focus')
}

function leave() {
  focused = false
  if (!handedOn.length) draft.value = props.value
}

function type(text: string) {
  draft.value = text
  handedOn.push(text)
  emit('input', text)
}

async function commit() {
  handedOn = []
  emit('done', draft.value)
  // What was refused gives way to the last good value at once.
  await nextTick()
  draft.value = props.value
}

/** Keys typed here are not for the stage; Escape is for whatever the field stands in. */
function key(event: Event | KeyboardEvent) {
  if (!(event instanceof KeyboardEvent) || event.key !== 'Escape') event.stopPropagation()
}
</script>

<template>
  <ElInput
    v-bind="$attrs"
    :model-value="draft"
    :type="multiline ? 'textarea' : 'text'"
    :autosize="multiline ? { minRows: 1, maxRows: 12 } : false"
    resize="none"
    :spellcheck="multiline ?? false"
    autocomplete="off"
    @focus="enter"
    @blur="leave"
    @update:model-value="type"
    @change="commit"
    @keydown="key" />
</template>
