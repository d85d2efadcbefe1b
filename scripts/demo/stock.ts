import type { Catalogue, Offer, Part } from '@/core/catalogue';
import { crossReference } from '@/core/fit';
import { STOCK_EVENT_VERSION, type StockEvent, type StockEventData } from '@/core/stock';
import {
  addDays,
  asId,
  asInstant,
  defined,
  money,
  type EventId,
  type Instant,
  type LocalDate,
  type Money,
  type PartId,
  type PlatformId,
  type Random,
  type RoleId,
  type TicketId,
} from '@/core/units';
import { uuid } from './files';

const at = (day: LocalDate): Instant => asInstant(`${day}T09:30:00.000Z`);

type Put = { role: string; units: number; place: string; daysAgo: number; taken?: { number: number; daysAgo: number } };

/** What the demo shop has lying there: nothing that an open machine waits for, so that each lot's story is its own. */
const LOTS: readonly Put[] = [
  { role: 'pump', units: 2, place: 'shelf A2', daysAgo: 62, taken: { number: 171, daysAgo: 24 } },
  { role: 'lock', units: 1, place: 'shelf A4', daysAgo: 97 },
  { role: 'belt', units: 3, place: 'van, left box', daysAgo: 40 },
  { role: 'element', units: 1, place: 'shelf B1', daysAgo: 480 },
  { role: 'brushes', units: 2, place: 'van, left box', daysAgo: 133, taken: { number: 160, daysAgo: 70 } },
];

const pieceCost = ({ packPrice, packQuantity }: Offer): Money =>
  money(Math.round(packPrice.amountMinor / packQuantity), packPrice.currency);

/** Lots as streams of events. `busy`: platforms of the open machines; `donor`: a machine that something was taken out of, and what. */
export function demoLots(
  catalogue: Catalogue,
  random: Random,
  anchor: LocalDate,
  busy: readonly PlatformId[],
  donor: { ticketId: TicketId; number: number; platformId: PlatformId; roleId: RoleId; daysAgo: number },
): StockEvent[] {
  const platformOf = new Map(catalogue.models.map((model) => [model.id, model.platformId]));
  const onBusy = new Set<PartId>(
    catalogue.fits.flatMap(({ partId, platformId, modelId }) => {
      const platform = platformId ?? (modelId && platformOf.get(modelId));
      return platform && busy.includes(platform) ? [partId] : [];
    }),
  );
  const isFitted = new Set(catalogue.fits.map(({ partId }) => partId));
  const offerOf = (part: Part) => catalogue.offers.find(({ partId }) => partId === part.id);
  const stream = (facts: readonly { on: LocalDate; data: StockEventData }[]): StockEvent[] => {
    const id = uuid(random);
    return facts.map(({ on, data }, index) => ({
      id: asId<EventId>(uuid(random)),
      stream: `stock:${id}`,
      sequence: index + 1,
      version: STOCK_EVENT_VERSION,
      at: at(on),
      groupId: uuid(random),
      data,
    }));
  };
  const lots = LOTS.flatMap(({ role, units, place, daysAgo, taken }) => {
    const part = catalogue.parts.find(
      (one) =>
        one.roleId === role &&
        one.kind === 'maker' &&
        offerOf(one) !== undefined &&
        isFitted.has(one.id) &&
        !crossReference(catalogue, one.id).parts.some(({ id }) => onBusy.has(id)),
    );
    if (!part) return [];
    return stream([
      {
        on: addDays(anchor, -daysAgo),
        data: {
          type: 'stocked',
          partId: part.id,
          partNumber: part.partNumber,
          description: part.description,
          place,
          units,
          unitCost: pieceCost(defined(offerOf(part), 'somebody sells it')),
          used: false,
          origin: { kind: 'by-hand' },
        },
      },
      ...(taken
        ? [
            {
              on: addDays(anchor, -taken.daysAgo),
              data: {
                type: 'taken' as const,
                ticketId: asId<TicketId>(`demo-${taken.number}`),
                number: taken.number,
                requirementId: asId<never>(`demo-${taken.number}`),
                units: 1,
              },
            },
          ]
        : []),
    ]);
  });
  const out = defined(
    catalogue.fits
      .filter(({ platformId, modelId }) => (platformId ?? (modelId && platformOf.get(modelId))) === donor.platformId)
      .map(({ partId }) => catalogue.parts.find(({ id }) => id === partId))
      .find((part) => part?.roleId === donor.roleId),
    'the donor carries such a part',
  );
  return [
    ...lots,
    ...stream([
      {
        on: addDays(anchor, -donor.daysAgo),
        data: {
          type: 'stocked',
          partId: out.id,
          partNumber: out.partNumber,
          description: out.description,
          place: 'shelf C1',
          units: 1,
          unitCost: money(1350, offerOf(out)?.packPrice.currency ?? 'EUR'),
          used: true,
          origin: {
            kind: 'donor',
            ticketId: donor.ticketId,
            number: donor.number,
            roleId: donor.roleId,
            position: 'any',
          },
        },
      },
      { on: addDays(anchor, -donor.daysAgo), data: { type: 'tried', works: true } },
    ]),
  ];
}
