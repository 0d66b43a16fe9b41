import type { DraftAnswer, DraftView } from '@vivid-cue/contract';
import { purgeRemoved } from '../jobs/purge.js';
import { expectStatus, FreshWorlds, studioOf } from './world.js';

describe('drafts of a sheet’s desk', () => {
  const fresh = new FreshWorlds();

  const keep = (sheetId: string, state: string, version: number) =>
    fresh.world.browser.call('keepSheetDraft', { sheetId }, { state }, { 'If-Match': `"${version}"` });
  const read = async (sheetId: string): Promise<DraftView | null> =>
    ((await expectStatus(200, fresh.world.browser.call('readSheetDraft', { sheetId }))).body as DraftAnswer)
      .draft;

  const stored = async (): Promise<unknown> =>
    (await fresh.server
      .db('sheet_drafts')
      .where({ sheet_id: fresh.world.sheet.id })
      .first('state')) as unknown;

  it('are found again by any device, of a new sheet under the studio', async () => {
    const { id: studioId } = await studioOf(fresh.server, fresh.world);
    expect(await read(studioId)).toBeNull();
    await expectStatus(200, keep(studioId, '{"pasted":"Étude 1: ♩ = 60"}', 1));
    await expectStatus(200, keep(studioId, '{"pasted":"Étude 1: ♩ = 66"}', 1));
    expect(await read(studioId)).toEqual(
      jasmine.objectContaining({ version: 2, state: '{"pasted":"Étude 1: ♩ = 66"}' }),
    );
    expect(await read(fresh.world.sheet.id)).toBeNull();
  });

  it('never replace what another desk kept meanwhile: both are there to choose from', async () => {
    const { id } = fresh.world.sheet;
    await expectStatus(200, keep(id, '"first"', 1));
    await expectStatus(200, keep(id, '"second"', 1));
    const { body } = await expectStatus(409, keep(id, '"late"', 1));
    expect((body as { current: DraftView }).current.state).toBe('"second"');
    expect((await read(id))?.state).toBe('"second"');
    const both = await Promise.all([keep(id, '"a"', 2), keep(id, '"b"', 2)]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
  });

  it('go when they were saved, and when nobody touched them for half a year', async () => {
    const { id } = fresh.world.sheet;
    await expectStatus(200, keep(id, '"kept"', 1));
    await expectStatus(204, fresh.world.browser.call('dropSheetDraft', { sheetId: id }));
    expect(await read(id)).toBeNull();
    await expectStatus(200, keep(id, '"kept"', 1));
    await purgeRemoved(fresh.server.db, fresh.server.clock.nowMs + 170 * 86_400_000);
    expect(await stored()).toEqual({ state: '"kept"' });
    await purgeRemoved(fresh.server.db, fresh.server.clock.nowMs + 190 * 86_400_000);
    expect(await stored()).toBeUndefined();
  });
});
