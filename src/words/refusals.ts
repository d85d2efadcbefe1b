import type { ProofBar, StepBar } from '@/core/bench';
import type { Refusal, Shaken, ShakenBy, TEXT_LIMITS } from '@/core/ticket';
import { awayWords } from './bench';
import { listOf, plural } from './format';

const MOVED: Record<ShakenBy, string> = {
  plate: 'the plate was read again as another machine',
  serial: 'the serial number is another one now',
  cause: 'another cause was settled on',
  part: 'other numbers were chosen',
  price: 'the prices are others now',
};

export const movedWords = (by: readonly ShakenBy[]): string => listOf([...new Set(by)].map((reason) => MOVED[reason]));

const DECISIONS: Record<Shaken['decision'], string> = {
  part: 'the part',
  offer: 'the offer',
  answer: 'the customer’s yes',
  order: 'what is ordered',
};

/** What does not stand any more, and why: "The part and the offer rest on …". */
export function shakenWords(shaken: readonly Shaken[]): string {
  const decisions = [...new Set(shaken.map(({ decision }) => DECISIONS[decision]))];
  return `Since this was decided, ${movedWords(shaken.map(({ by }) => by))}. Look again at ${listOf(decisions)}: nothing is ordered or ticked on ${decisions.length > 1 ? 'them' : 'it'} until then.`;
}

type Stale = Extract<Refusal, { kind: 'plan-is-stale' }>['tickets'][number];
const STALE: Record<Stale['why'], string> = {
  ordered: 'is ordered already',
  'not-wanted': 'needs another part now',
  shaken: 'has a decision to look at again',
  'no-yes': 'has no yes to its offer',
  closed: 'is closed',
};

const FIELDS: Record<string, keyof typeof TEXT_LIMITS> = {
  'serial-noted serial': 'serial',
  'code-noted code': 'code',
  'customer-noted phone': 'phone',
};
const FIELD_NAMES: Record<keyof typeof TEXT_LIMITS, string> = {
  note: 'This text',
  name: 'This name',
  phone: 'A telephone number',
  serial: 'A serial number',
  code: 'A displayed code',
  size: 'A size',
};

/** Why a step may not be done yet. */
export function stepBarWords(bar: StepBar): string {
  switch (bar.kind) {
    case 'not-isolated':
      return 'unplug it and prove it dead first';
    case 'not-off':
      return 'it has not come off yet';
    case 'curing':
      return 'the joint cures still: no water before';
    case 'no-way-back':
      return `there is no way back from this, and ${listOf(bar.lacking.map((what) => (what === 'parts' ? 'its parts are not here' : 'the customer has not said yes')))}`;
    case 'goes-back-after':
      return `first: ${listOf(bar.titles.map((title) => title.toLowerCase()))}`;
    case 'count-first':
      return 'count tools, screws and pieces home before it is closed';
    case 'not-home':
      return `not home: ${listOf([...bar.missing.map(awayWords), ...bar.pieces.map((piece) => `piece ${piece}`)])}`;
  }
}

/** Why a proof may not be passed yet. */
export const PROOF_BARS: Record<ProofBar, string> = {
  curing: 'the joint cures still: no water and no load on it',
  'not-closed': 'the machine is open: finish the sheet at the bench first',
  'safe-first':
    'no power before it is safe: first prove that nothing is left inside and, where it is asked for, that earth is whole',
  'live-barred': 'what was found forbids any live run until it is mended',
  'figure-outside': 'what was measured lies outside its limit: mend it and measure again',
};

/** Why something was not done, what was kept, and what to do. */
export function refusalWords(refusal: Refusal): string {
  switch (refusal.kind) {
    case 'closed':
      return 'This ticket is closed. If the machine is back, open it again under “Proof”.';
    case 'not-closed':
      return 'This ticket is open already.';
    case 'gone':
      return 'This is no longer in the shop: another tab may have emptied or restored it. Reload the page.';
    case 'does-not-fit':
      return refusal.limit === null
        ? 'This was not saved: a value is not of the kind that belongs there. What was saved before is kept.'
        : `${FIELD_NAMES[FIELDS[refusal.field] ?? 'note']} has at most ${refusal.limit} characters here. It was not saved; what was saved before is kept. Shorten it, or add it as a note.`;
    case 'shaken':
      return `Not yet: ${movedWords(refusal.by)}. Look again at what rests on it: keep it, or decide anew.`;
    case 'no-offer':
      return 'There is no such offer. Make the offer first.';
    case 'no-yes':
      return 'The customer has not said yes.';
    case 'curing':
      return 'The joint still cures: nothing may load it yet.';
    case 'step-barred':
      return `Not yet: ${stepBarWords(refusal.by)}.`;
    case 'pieces-left':
      return `Not yet: ${listOf(refusal.pieces.map((piece) => `piece ${piece}`))} ${refusal.pieces.length > 1 ? 'are' : 'is'} not home. Find ${refusal.pieces.length > 1 ? 'their places' : 'its place'} before it closes.`;
    case 'proof-barred':
      return `Not yet: ${PROOF_BARS[refusal.by]}.`;
    case 'not-finished':
      return 'The work is not finished yet.';
    case 'not-proved':
      return `First ${plural(refusal.proofs, 'proof')} must be passed.`;
    case 'nothing-to-keep':
      return 'Nothing was decided yet.';
    case 'nothing-to-take-back':
      return refusal.leftTheShop
        ? 'What was ordered is not taken back here: cancel it on the Orders page.'
        : 'There is nothing to take back.';
    case 'others-went-on':
      return `This cannot be taken back: ticket ${refusal.ticket} was worked on since with a part of the same parcel.`;
    case 'not-needed':
      return `Ticket ${refusal.ticket} needs nothing more of this part.`;
    case 'donor-gone':
      return `This part is no longer on donor ${refusal.donor}.`;
    case 'not-in-stock':
      return `So many of ${refusal.partNumber} are not free on the shelf. Count what lies there.`;
    case 'lot-went-on':
      return `Of ${refusal.partNumber} on the shelf something was taken or counted since: correct it there.`;
    case 'plan-is-stale':
      return `Nothing was ordered: the shop has moved on since the plan was made. ${listOf(
        refusal.tickets.map(({ number, why }) => `Ticket ${number} ${STALE[why]}`),
      )}. Work the plan out again.`;
    case 'order-is-past':
      return `Order ${refusal.number} is answered or cancelled already.`;
    case 'nothing-to-come':
      return `Nothing more is to come of this line of order ${refusal.number}.`;
    case 'sent-back-since':
      return `This cannot be taken back: what came of order ${refusal.number} is on its way back to the supplier, or settled. Settle the return on the Orders page.`;
  }
}
