import type { LocalDate, MakerId, ModelId, OrderId, PartId, RoleId, TicketId } from '../../units';
import type { CodeMeaning, Finding, SerialScheme } from '../../catalogue';
import { bearingByDesignation, findBearing, parseSizes } from '../../measure';
import { differencesBetween, type NumberDifference } from '../plate/differences';
import { normaliseNumber } from '../plate/normal';
import { mayBeMisread } from './numberList';
import { readPartNumber, type ExpectedNumber } from '../partNumber/readPartNumber';
import type { PlateReading } from '../plate/readPlate';
import { readSerial } from '../serial/readSerial';

/** What one text may be. `weight` ranks them (0 to 1); it is a likelihood of form, not a calibrated probability. */
export type InputReading = { weight: number } &
  /** differences: places in the number that were read otherwise; none for the number as it is listed. */
  (
    | {
        kind: 'model';
        modelId: ModelId;
        modelNumber: string;
        probability: number;
        differences: NumberDifference[];
        /** The stretch of the text that was read as its number. */
        taken: string;
      }
    /** None of the models that it may be: it is in no list. */
    | { kind: 'unlisted'; probability: number }
    /** roleId: what of the machine at hand it may be printed on; null where nothing leads from that machine to it. */
    | { kind: 'part'; partId: PartId; partNumber: string; differences: NumberDifference[]; roleId: RoleId | null }
    | { kind: 'serial'; serial: string; builtFrom: LocalDate; builtTo: LocalDate }
    | { kind: 'code'; code: string; meaning: string; findingId: string }
    | { kind: 'finding'; findingId: string; text: string; threeWords: string }
    | { kind: 'bearing'; designation: string; bore: number; outside: number; width: number }
    | { kind: 'size'; first: number; second: number; third: number }
    | { kind: 'ticket'; ticketId: TicketId; number: number }
    | { kind: 'order'; orderId: OrderId; number: string }
  );

export type InputSources = {
  readPlate: (text: string, sure?: number) => PlateReading;
  partsByNumber: (normalised: string) => readonly { id: PartId; partNumber: string }[];
  /** Parts whose number this may be a misreading of, likeliest first; asked for only where none has this number. */
  partsNear: (normalised: string) => readonly { id: PartId; partNumber: string }[];
  tickets: readonly { id: TicketId; number: number }[];
  orders: readonly { id: OrderId; number: string }[];
};

/** What is known from where the person stands: the open ticket's maker, findings and dates. */
export type InputContext = {
  today: LocalDate;
  makerId?: MakerId | undefined;
  schemes: readonly SerialScheme[];
  codes: readonly CodeMeaning[];
  findings: readonly Finding[];
  producedFrom?: LocalDate | undefined;
  producedTo?: LocalDate | undefined;
  /** How sure the reader of a picture was of the text, 0 to 1; left out of what was typed. */
  sure?: number | undefined;
  /** The numbers that may be printed on the parts of the machine at hand. */
  onMachine?: readonly OnMachine[] | undefined;
};

type OnMachine = ExpectedNumber & { roleId: RoleId };

const MOST_NEAR = 3;
const NEAR_WEIGHT = 0.6;
const MOST_MODELS = 3;
const MODEL_WEIGHT = 0.94;
/** A model less likely than this is not shown. */
const LEAST_LIKELY = 0.02;
const ON_MACHINE_WEIGHT = 0.98;
const LEAST_ON_MACHINE = 0.1;
/** P(a number that somebody types beside a machine is of none of its parts). */
const UNLISTED_PART = 0.5;

/** Sorts any typed, pasted or scanned text into what it could be, likeliest first. Empty text gives []. Cost: one readPlate. */
export function sortInput(sources: InputSources, text: string, context: InputContext): InputReading[] {
  const plain = text.trim();
  const normal = normaliseNumber(plain);
  if (normal === '') return [];
  const readings: InputReading[] = [];

  const ticket = /^(?:ticket\s*|#)?(\d{1,6})$/i.exec(plain);
  for (const known of sources.tickets)
    if (ticket && known.number === Number(ticket[1]))
      readings.push({
        kind: 'ticket',
        ticketId: known.id,
        number: known.number,
        weight: plain.startsWith('#') || /^ticket/i.test(plain) ? 1 : 0.8,
      });
  for (const known of sources.orders)
    if (normaliseNumber(known.number) === normal)
      readings.push({ kind: 'order', orderId: known.id, number: known.number, weight: 0.97 });

  const sizes = parseSizes(plain);
  const bearings = sizes ? findBearing({ bore: sizes.first, outside: sizes.second, width: sizes.third }) : [];
  const named = bearingByDesignation(plain);
  for (const bearing of named ? [named] : bearings)
    readings.push({ kind: 'bearing', ...bearing, weight: named ? 0.9 : 0.95 });
  if (sizes && bearings.length === 0) readings.push({ kind: 'size', ...sizes, weight: 0.7 });

  for (const code of context.codes)
    if (normaliseNumber(code.code) === normal)
      readings.push({ kind: 'code', code: code.code, meaning: code.meaning, findingId: code.findingId, weight: 0.93 });
  readings.push(...partReadings(sources, normal, plain, context.onMachine ?? []));

  if (context.makerId !== undefined && normal.length >= 7) {
    const serial = readSerial(context.schemes, context.makerId, plain, context);
    const first = serial.candidates[0];
    if (first)
      readings.push({ kind: 'serial', serial: plain, builtFrom: first.builtFrom, builtTo: first.builtTo, weight: 0.9 });
  }
  readings.push(...findingReadings(plain, context.findings));
  if (normal.length >= 3 && /\d/.test(normal)) {
    const plate = sources.readPlate(plain, context.sure);
    const models = plate.candidates
      .slice(0, MOST_MODELS)
      .filter(({ probability }) => probability >= LEAST_LIKELY)
      .map(({ modelId, modelNumber, probability, differences }): InputReading => ({
        kind: 'model',
        modelId,
        modelNumber,
        probability,
        differences,
        taken: plate.taken,
        weight: MODEL_WEIGHT * probability,
      }));
    // What is a serial or a part as well is more likely that than a machine that no list has.
    const isElse = readings.length > 0;
    readings.push(...models);
    if (models.length > 0 && !isElse && plate.unknown >= LEAST_LIKELY)
      readings.push({ kind: 'unlisted', probability: plate.unknown, weight: MODEL_WEIGHT * plate.unknown });
  }
  return readings.sort((a, b) => b.weight - a.weight).slice(0, 8);
}

/** Parts of the machine at hand first: whatever slips lead to them. Then what is listed just so, else what is one slip away. */
function partReadings(
  sources: InputSources,
  normal: string,
  plain: string,
  onMachine: readonly OnMachine[],
): InputReading[] {
  const readings = new Map<PartId, InputReading>();
  const ofMachine = mayBeMisread(normal)
    ? readPartNumber({ expected: onMachine, unlisted: UNLISTED_PART }, plain).candidates.slice(0, MOST_NEAR)
    : [];
  for (const { partId, partNumber, probability, differences } of ofMachine)
    if (probability >= LEAST_ON_MACHINE)
      readings.set(partId, {
        kind: 'part',
        partId,
        partNumber,
        differences,
        roleId: onMachine.find((entry) => entry.partId === partId)?.roleId ?? null,
        weight: ON_MACHINE_WEIGHT * probability,
      });
  const parts = sources.partsByNumber(normal);
  for (const { id, partNumber } of parts)
    if (!readings.has(id))
      readings.set(id, { kind: 'part', partId: id, partNumber, differences: [], roleId: null, weight: 0.96 });
  if (parts.length === 0 && mayBeMisread(normal))
    for (const [rank, { id, partNumber }] of sources.partsNear(normal).slice(0, MOST_NEAR).entries())
      if (!readings.has(id))
        readings.set(id, {
          kind: 'part',
          partId: id,
          partNumber,
          differences: differencesBetween(partNumber, normal),
          roleId: null,
          weight: NEAR_WEIGHT - rank / 100,
        });
  return [...readings.values()];
}

const words = (text: string): string[] => text.toLowerCase().match(/[a-z']{3,}/g) ?? [];

/** Findings named in plain words: the share of the typed words (their beginnings) that a finding's text contains. */
function findingReadings(text: string, findings: readonly Finding[]): InputReading[] {
  const typed = words(text);
  if (typed.length === 0 || /\d/.test(text)) return [];
  return findings.flatMap((finding) => {
    const own = words(`${finding.text} ${finding.group}`);
    const hit = typed.filter((word) => own.some((other) => other.startsWith(word))).length;
    const weight = (0.85 * hit) / typed.length;
    return hit > 0 && weight >= 0.5
      ? [
          {
            kind: 'finding' as const,
            findingId: finding.id,
            text: finding.text,
            threeWords: finding.threeWords,
            weight,
          },
        ]
      : [];
  });
}
