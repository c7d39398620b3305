<script setup lang="ts">
import { ElCheckbox } from 'element-plus'
import { computed, ref } from 'vue'
import type { CodeWords, Tint } from '../generated/types'
import ChoiceField from '../parts/ChoiceField.vue'
import DraftField from '../parts/DraftField.vue'
import ShelfDialog from '../pictures/ShelfDialog.vue'
import { useBench, type Plain } from '../stores/bench'
import ColorPick from './ColorPick.vue'

/** What a code says when it is scanned, what lies under it, and what stands in its middle. */
const props = defineProps<{ plain: Plain }>()
const bench = useBench()

const code = computed(() => (props.plain.content.kind === 'code' ? props.plain.content.code : null))
const says = computed(() => code.value?.says ?? null)
const kinds: { value: CodeWords['kind']; name: string }[] = [
  { value: 'address', name: 'A web address' },
  { value: 'contact', name: 'A contact card' },
  { value: 'network', name: 'A wireless network' },
  { value: 'plain', name: 'Plain words' },
]
const fields: Record<CodeWords['kind'], { key: string; name: string }[]> = {
  address: [{ key: 'address', name: 'Address' }],
  contact: [
    { key: 'name', name: 'Name' },
    { key: 'firm', name: 'Firm' },
    { key: 'phone', name: 'Phone' },
    { key: 'mail', name: 'Mail' },
    { key: 'web', name: 'Web' },
  ],
  network: [
    { key: 'name', name: 'Network' },
    { key: 'password', name: 'Password' },
  ],
  plain: [{ key: 'text', name: 'Words' }],
}
const value = (key: string) => String((says.value as Record<string, unknown> | null)?.[key] ?? '')
const blank = (kind: CodeWords['kind']) => ({ kind, ...Object.fromEntries(fields[kind].map((field) => [field.key, ''])) }) as CodeWords

let gesture = ''
function change(change: { says?: CodeWords; ground?: Tint | null; mark?: string | null }, continuing = false) {
  if (!continuing) gesture = `code-${crypto.randomUUID()}`
  void bench.act({ act: 'changeCode', item: props.plain.item.id, change }, continuing ? gesture : undefined)
}
const type = (key: string, text: string) => {
  if (says.value) change({ says: { ...says.value, [key]: text } as CodeWords }, true)
}
const choosing = ref(false)
function putIn(mark: string) {
  choosing.value = false
  change({ mark })
}
</script>

<template>
  <div v-if="code && says" class="code">
    <ChoiceField label="It says" :value="says.kind" :choices="kinds" data-field="code-kind" @done="change({ says: blank($event) })" />
    <label v-for="field in fields[says.kind]" :key="field.key"
      ><span>{{ field.name }}</span
      ><DraftField
        :value="value(field.key)"
        :aria-label="field.name"
        :data-code="field.key"
        @focus="gesture = `code-${field.key}-${Date.now()}`"
        @input="type(field.key, $event)"
    /></label>
    <ColorPick
      label="Under it"
      :tint="code.ground"
      none-label="clear"
      @live="change({ ground: $event }, true)"
      @done="change({ ground: $event })"
      @none="change({ ground: null })" />
    <ElCheckbox
      :model-value="Boolean(code.mark)"
      label="A picture in its middle"
      @update:model-value="code.mark ? change({ mark: null }) : (choosing = true)" />
    <ShelfDialog v-if="choosing" title="In the middle of the code" @choose="putIn" @close="choosing = false" />
  </div>
</template>

<style scoped>
.code {
  display: grid;
  gap: 8px;
}

label:not(.el-checkbox) {
  display: grid;
  grid-template-columns: 62px minmax(0, 1fr);
  align-items: center;
  gap: 12px;
  font-size: var(--text-1);
  color: var(--ink-3);
}
</style>
