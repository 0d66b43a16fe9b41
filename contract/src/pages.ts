import { object, string } from 'yup';
import { idField } from './fields.js';

/** Sizes in which a page's picture is kept, by their longer side. Shape: null as it came. Units: pixels */
export const PAGE_SIZES = { whole: null, lines: 2400, view: 1400 } as const;

/** A size of a page's picture. */
export type PageSize = keyof typeof PAGE_SIZES;

/** What a page says beside its picture. */
export const pageQuerySchema = object({ id: idField.required() }).exact();

/** Which picture of a page. */
export const pagePictureSchema = object({
  size: string<PageSize>()
    .oneOf(Object.keys(PAGE_SIZES) as PageSize[])
    .required(),
}).exact();

/** A page that is kept. Units: pixels of its whole picture */
export interface PageView {
  readonly id: string;
  readonly width: number;
  readonly height: number;
}
