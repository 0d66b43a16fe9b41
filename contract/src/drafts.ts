import { object, string, type InferType } from 'yup';

/** What stands on a desk, as text (our own limit: a long text with all that was read from it). Units: characters */
export const DRAFT_LIMIT = 900_000;

/** A draft to keep: whatever the desk wrote, as it will read it again. */
export const draftSchema = object({
  state: string()
    .max(DRAFT_LIMIT, 'This draft is too long to be kept on the server; it stays on this device.')
    .defined('The draft is missing.'),
}).exact();

/** A draft to keep, as a type. */
export type DraftInput = InferType<typeof draftSchema>;

/** What stands on a desk and is not saved. Shape: `sheetId` is the studio's own for a new sheet. Units: ms since 1970 */
export interface DraftView {
  readonly sheetId: string;
  readonly version: number;
  readonly savedAt: number;
  readonly state: string;
}

/** The draft of a desk; null where none is kept. */
export interface DraftAnswer {
  readonly draft: DraftView | null;
}
