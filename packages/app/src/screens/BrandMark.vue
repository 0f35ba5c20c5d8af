<template>
  <RouterLink to="/" class="brand" title="All productions">
    <svg
      width="16"
      height="16"
      viewBox="0 0 16 16"
      fill="none"
      stroke="currentColor"
      stroke-width="1.5"
      stroke-linejoin="round"
      aria-hidden="true"
    >
      <path d="M2 2.500h12v8l-3 3h-9z" />
      <path d="M2 6h12" stroke="var(--madder)" stroke-dasharray="2 1.500" />
    </svg>
    Lumbra
  </RouterLink>
</template>

<style scoped>
.brand {
  display: flex;
  align-items: center;
  gap: 8px;
  font-weight: 700;
  color: var(--ink-9);
}
</style>
