<template>
  <svg width="26" height="18" viewBox="0 0 26 18" aria-hidden="true">
    <path d="M2 14 L24 5" stroke="currentColor" stroke-width="2.4" stroke-linecap="round" />
    <path d="M10 17l3.4-6 3.4 6z" fill="var(--violet)" />
    <circle cx="23" cy="4.6" r="2.6" fill="var(--saffron)" />
  </svg>
</template>
