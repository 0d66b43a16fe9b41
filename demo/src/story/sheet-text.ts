import { readFileSync } from 'node:fs';

const DAY_MS = 86_400_000;

/** A day so many days from now. Units: milliseconds since 1970; ISO day */
export function isoDay(nowMs: number, inDays: number): string {
  return new Date(nowMs + inDays * DAY_MS).toISOString().slice(0, 10);
}

/** The text with its dates set relative to today: {+27} as American bodies print them, {+27:uk} as British ones do. */
export function sheetText(file: string, nowMs: number): string {
  const year = seasonYear(nowMs);
  const print = (inDays: number, locale: string): string =>
    new Intl.DateTimeFormat(locale, {
      day: 'numeric',
      month: 'long',
      year: 'numeric',
      timeZone: 'UTC',
    }).format(new Date(nowMs + inDays * DAY_MS));
  return readFileSync(new URL(`../../sheets/${file}.txt`, import.meta.url), 'utf8')
    .replaceAll('{year}', year)
    .replaceAll('{season}', `${Number(year) - 1}-${year.slice(-2)}`)
    .replaceAll('{before}', `${Number(year) - 2}-${String(Number(year) - 1).slice(-2)}`)
    .replace(/\{\+(\d+)(:uk)?\}/gu, (_, days: string, uk: string | undefined) =>
      print(Number(days), uk === undefined ? 'en-US' : 'en-GB'),
    );
}

/** From July on, sheets are those of the year to come, as bodies publish them in summer. */
function seasonYear(nowMs: number): string {
  const now = new Date(nowMs);
  return String(now.getUTCFullYear() + (now.getUTCMonth() >= 6 ? 1 : 0));
}
