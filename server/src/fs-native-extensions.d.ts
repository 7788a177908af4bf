/** What is used of it; the package brings no types. */
declare module 'fs-native-extensions' {
  /** Locks a file, or a part of it, for its descriptor alone; false when another descriptor has it. */
  export function tryLock(fd: number, offset?: number, length?: number): boolean;
}
