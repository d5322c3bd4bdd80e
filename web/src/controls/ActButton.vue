<script setup lang="ts">
import { NButton } from 'naive-ui'

/**
 * A button in words. `chip`: the ordinary one; `primary`: what the panel is for; `noun`: a word in a sentence that leads somewhere;
 * `bare`: as the place where it stands draws it; `row`: one of a list to choose from, over its whole width. Everything else (title, aria, data-test) goes to the button.
 * @example <ActButton kind="noun" @click="showAll">Show all</ActButton>
 */
withDefaults(
  defineProps<{
    kind?: 'chip' | 'primary' | 'noun' | 'bare' | 'row'
    type?: 'button' | 'submit'
    disabled?: boolean
  }>(),
  { kind: 'chip', type: 'button' },
)
</script>

<template>
  <NButton
    class="act-button"
    :class="`is-${kind}`"
    :attr-type="type"
    :disabled="disabled"
    :type="kind === 'primary' ? 'primary' : 'default'"
    :text="kind !== 'chip' && kind !== 'primary'"
    :round="kind === 'chip'"
    :native-focus-behavior="true"
    size="small"
  >
    <slot />
  </NButton>
</template>

<style>
/* Low specificity on purpose: where a button stands may say more of its looks. */
.n-button:where(.act-button) {
  font-weight: inherit;
  line-height: inherit;
  user-select: auto;
}
.n-button:where(.act-button.is-primary) {
  font-weight: 600;
}
.n-button:where(.act-button.is-noun) {
  display: inline;
  white-space: normal;
  text-align: left;
  color: var(--fjord);
  font-size: inherit;
  font-weight: 600;
  border-radius: 0;
  border-bottom: 1px solid color-mix(in srgb, var(--fjord) 45%, transparent);
}
.n-button:where(.act-button.is-noun):hover {
  border-bottom-color: var(--fjord);
}
.n-button:where(.act-button.is-bare) {
  display: inline-block;
  white-space: normal;
  text-align: inherit;
  color: inherit;
  font-size: inherit;
  border-radius: 3px;
}
.n-button:where(.act-button.is-row) {
  display: flex;
  width: 100%;
  padding: 10px 14px;
  border-bottom: 1px solid var(--hairline);
  border-radius: 0;
  color: inherit;
  font-size: inherit;
  text-align: left;
  white-space: normal;
}
.n-button:where(.act-button.is-row) > .n-button__content {
  flex: 1;
  flex-direction: column;
  align-items: stretch;
}
.n-button:where(.act-button.is-row)[aria-current='true'] {
  background: var(--wash);
  box-shadow: inset 3px 0 0 var(--signal);
}
.n-button.act-button.is-row:focus-visible {
  outline-offset: -2px;
}
.act-button.is-noun > .n-button__content,
.act-button.is-bare > .n-button__content {
  display: contents;
}
.n-button:where(.act-button.is-chip) {
  height: 26px;
  padding: 0 11px;
  font-size: 12.5px;
}
.act-button.is-chip > .n-button__border {
  border: 1px solid var(--line);
}
.n-button:where(.act-button.is-chip)[aria-pressed='true'],
.n-button:where(.act-button.is-chip)[aria-current='true'] {
  box-shadow: inset 0 0 0 2px var(--ink);
  font-weight: 600;
}
.n-button.act-button:focus-visible {
  outline: 2px solid var(--signal);
  outline-offset: 1px;
}
/* Who was clicked last is no other colour for it; under the pointer it is. */
.n-button.act-button.is-bare:not(.n-button--disabled):focus:not(:hover),
.n-button.act-button.is-row:not(.n-button--disabled):focus:not(:hover) {
  color: inherit;
}
.n-base-wave {
  display: none;
}
</style>
