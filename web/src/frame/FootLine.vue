<template>
  <footer class="foot"><slot /></footer>
</template>

<style scoped>
.foot {
  display: flex;
  align-items: center;
  gap: 22px;
  height: 30px;
  padding: 0 18px;
  border-top: 1px solid var(--hairline);
  color: var(--soft-ink);
  font-size: 12.5px;
  flex: none;
  white-space: nowrap;
  overflow: hidden;
}
</style>
