import { createSharedComposable, useMediaQuery } from '@vueuse/core';

/** Whether there is a mouse, and so a keyboard; asked once for all who want to know. */
export const usePointer = createSharedComposable(() => useMediaQuery('(pointer: fine)'));
