<script setup lang="ts">
import { CircleAlert, X } from '@lucide/vue'
import { useNotices, type Notice } from '../../stores/notices'

const notices = useNotices()

function run(notice: Notice) {
  notice.action?.run()
  notices.drop(notice.id)
}
</script>

<template>
  <ul class="notices" aria-live="polite">
    <li v-for="notice in notices.list" :key="notice.id" :class="{ trouble: notice.trouble }" :role="notice.trouble ? 'alert' : 'status'">
      <CircleAlert v-if="notice.trouble" :size="16" aria-hidden="true" />
      <span>{{ notice.text }}</span>
      <button v-if="notice.action" class="do" @click="run(notice)">{{ notice.action.label }}</button>
      <button class="away" aria-label="Put this message away" @click="notices.drop(notice.id)"><X :size="14" /></button>
    </li>
  </ul>
</template>

<style scoped>
.notices {
  position: fixed;
  left: 50%;
  bottom: 124px;
  transform: translateX(-50%);
  display: grid;
  gap: 8px;
  z-index: 3000;
  width: max-content;
  max-width: min(560px, 92vw);
}

li {
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 9px 12px;
  border-radius: 3px;
  background: var(--ink);
  color: var(--paper);
  box-shadow: var(--lift);
}

li.trouble {
  border-left: 5px solid var(--madder);
}

svg {
  flex: none;
}

.do {
  font-weight: 600;
  text-decoration: underline;
  text-underline-offset: 3px;
  white-space: nowrap;
}

.away {
  margin-left: auto;
  opacity: 0.7;
}

.notices :focus-visible {
  outline-color: var(--paper);
}
</style>
