import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { readScore } from '@vivid-cue/core/score';
import type { Sound } from '@vivid-cue/core/takes';
import { performed } from '@vivid-cue/core/takes/testing';
import { pressRecord } from '../scripts/recording.mjs';
import { expect, file, furnishStudio } from './studio';

/** What the microphone hears: the first eight measures, at a tempo of its own, with one stop. */
export const BPM = 100;
export const LAST = 8;
const STOP_SECONDS = 1.6;
/** A machine that is busy opens its microphone slowly. */
export const LEAD_SECONDS = 3;
export const sound = played();
/** So long is recorded. Units: seconds */
export const SECONDS = sound.samples.length / sound.rate;

function played(): Sound {
  const read = readScore(readFileSync(file('demo/studies/ferry-lines.musicxml')));
  if (!read.ok) throw new Error(read.issues[0]?.message);
  return performed(read.value, {
    ...{ timbre: 'clarinet', seed: 20, spans: [{ fromIndex: 0, endIndex: LAST }], bpm: BPM },
    vary: () => ({ unsteady: 0.006, before: LEAD_SECONDS, pauses: new Map([[3, STOP_SECONDS]]) }),
  }).sound;
}

export const music = { work: 'Ferry Lines', to: LAST, path: 'demo/studies/ferry-lines.musicxml' };

/** The takes page of a student whose etude has two passages. */
export async function openTakes(page: Page, url: string): Promise<string> {
  const { studentUrl } = await furnishStudio(page, url, { music, spans: ['1–4', '5–8'] });
  await page.goto(`${studentUrl}/takes`);
  await expect(page.getByRole('heading', { name: 'Ilse Vantongeren, takes' })).toBeVisible();
  return studentUrl;
}

/** Records from the press on. */
export async function record(page: Page): Promise<void> {
  await pressRecord(page);
  await expect(page.getByText('recording', { exact: false }).first()).toBeVisible();
}
