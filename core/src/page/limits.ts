/** What the pages of a part may be at most (our own). Units: pages; bytes of one file and of all; pixels of one page */
export const PAGE_LIMITS = {
  pages: 20,
  fileBytes: 20 * 1024 * 1024,
  partBytes: 20 * 1024 * 1024,
  pixels: 40_000_000,
} as const;
