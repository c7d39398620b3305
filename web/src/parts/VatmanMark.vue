<!-- The mould and the sheet on it: the program's own mark. -->
<template>
  <svg viewBox="0 0 26 26" width="26" height="26" aria-hidden="true">
    <path d="M4 6.5h18v13H4z" fill="none" stroke="currentColor" stroke-width="1.8" />
    <path d="M4 10.8h18M4 15.2h18" stroke="currentColor" stroke-width="1" />
    <path d="M2 3v20M24 3v20" stroke="var(--madder)" stroke-width="2.4" stroke-linecap="square" />
  </svg>
</template>
