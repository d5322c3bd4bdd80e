<script setup lang="ts">
import { NUpload, type UploadFileInfo } from 'naive-ui'

/** A file from the disk: what stands in it opens the choice. The input keeps what it is given beside (data-test, aria-label). */
defineOptions({ inheritAttrs: false })
const props = defineProps<{ accept: string; label: string; test?: string }>()
const emit = defineEmits<{ pick: [file: File] }>()
const take = ({ file }: { file: UploadFileInfo }): void => {
  if (file.file) emit('pick', file.file)
}
</script>

<template>
  <NUpload
    class="file-pick"
    :class="$attrs.class"
    :accept="props.accept"
    :default-upload="false"
    :show-file-list="false"
    :file-list="[]"
    :input-props="{ 'aria-label': label, 'data-test': test } as never"
    @change="take"
  >
    <slot />
  </NUpload>
</template>

<style>
.file-pick {
  display: inline-block;
  width: auto;
}
</style>
