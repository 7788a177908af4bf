import { PICTURE_LIMIT, PICTURE_TYPES } from '@alluvium/records';

/** Types of picture taken, for the browser's file chooser. */
export const PICTURES = Object.keys(PICTURE_TYPES).join(',');

/** Why a file cannot be taken as a photo; empty when it can. */
export function pictureProblem(file: File): string {
  if (!(file.type in PICTURE_TYPES)) return `“${file.name}” is no picture this program takes: JPEG, PNG or WebP.`;
  if (file.size > PICTURE_LIMIT)
    return `“${file.name}” has ${Math.ceil(file.size / 1048576)} MB; 12 MB at most. Send it at a smaller size.`;
  return '';
}
