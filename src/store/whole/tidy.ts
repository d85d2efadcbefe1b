import type { SorterDatabase } from '../database';
import { sweep } from '../editions/layers';
import { afterUndertaking, type Undertaking } from './undertaking';

/* What a page needs to know of undertakings; apart from what does them, so that a page does not load it. */

/** What is written last when a shop is filled says that it was: what a killed tab left of a filling does not count. */
export const isFilled = async (db: SorterDatabase): Promise<boolean> =>
  (await db.meta.get('seeded')) !== undefined || (await db.events.count()) > 0;

/** Removes what a killed tab left. What was cut off, if something was. Nothing is done while something is under way somewhere. */
export const tidyUp = (db: SorterDatabase): Promise<Undertaking | null> => afterUndertaking(db, () => sweep(db), 'not');

/** Until what another tab has under way is done, or that tab is gone. */
export const standBy = (db: SorterDatabase): Promise<Undertaking | null> => afterUndertaking(db, () => sweep(db));
