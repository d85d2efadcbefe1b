import type { Room } from '../measure';
import { localDateSchema, moneySchema } from '../units';
import * as z from '../units/zod';

const weekdays = (usual: number[]) => z.array(z.number().int().min(1).max(7)).min(1).max(7).default(usual);

/** The shop's own figures. Shares are 0 to 1; basis points are hundredths of a percent. */
export const settingsSchema = z.object({
  shopName: z.string(),
  address: z.string(),
  phone: z.string(),
  zone: z.string(),
  currency: z.string().length(3),
  labourPerHour: moneySchema,
  taxBasisPoints: z.number().int().min(0).max(10_000),
  inspectionFee: moneySchema,
  feeWaivedIfRepaired: z.boolean(),
  partsMarkupBasisPoints: z.number().int().min(0).max(20_000),
  /** Another mark-up on numbers that cost at least so much to buy; the dearest that is reached counts. */
  markupTiers: z
    .array(z.object({ from: moneySchema, basisPoints: z.number().int().min(0).max(20_000) }))
    .max(6)
    .default([]),
  /** added: the shop's prices are net, and tax comes on top. included: they hold the tax. none: this shop charges none. */
  taxStyle: z.enum(['added', 'included', 'none']).default('added'),
  /** Tax on work where it differs from that on goods. */
  labourTaxBasisPoints: z.number().int().min(0).max(10_000).nullable().default(null),
  /** For fetching the machine, and for bringing it back. */
  collectionFee: moneySchema.nullable().default(null),
  deliveryFee: moneySchema.nullable().default(null),
  /** What a part out of a donor is charged at, of what a new one would be. */
  usedPartsBasisPoints: z.number().int().min(0).max(10_000).default(4000),
  /** Of the parts, before they are ordered. */
  depositBasisPoints: z.number().int().min(0).max(10_000).default(0),
  /** What the shop answers for on its repairs. */
  warrantyMonths: z.number().int().min(0).max(120).default(12),
  /** How long an offer stands. */
  validDays: z.number().int().min(1).max(365).default(14),
  /** At most this is put aside for work that comes back, of the labour: the chance that the mend does not hold, where it is less. */
  reserveBasisPoints: z.number().int().min(0).max(5000),
  /** What a day without the machine costs the customer. */
  latePerDay: moneySchema,
  /** What each later failure costs the owner beside the bill: days without washing, a visit. */
  disruption: moneySchema,
  /** Yearly rate at which later money counts less; 0: it counts in full. */
  rho: z.number().min(0).max(0.5),
  rules: z.object({
    shareOfNew: z.number().min(0.05).max(2),
    maxAgeYears: z.number().min(1).max(60),
    /** Age in years times the quote, in new prices. */
    ageTimesQuote: z.number().min(0.1).max(60).default(4),
  }),
  repairModel: z.enum(['minimal', 'renewal']),
  opensWeldedTubs: z.boolean(),
  /** Above this probability the cause counts as found. */
  enoughCertainty: z.number().min(0.5).max(0.999),
  /** Days of the week on which the shop is open, and on which carriers bring: 1 is Monday. */
  shopDays: weekdays([1, 2, 3, 4, 5, 6]),
  carrierDays: weekdays([1, 2, 3, 4, 5, 6]),
  /** When it closes, in its own zone. */
  closesAt: z
    .string()
    .regex(/^([01]\d|2[0-3]):[0-5]\d$/)
    .default('17:00'),
  /** On which suppliers pack. */
  supplierDays: weekdays([1, 2, 3, 4, 5]),
  /** Public holidays and the shop's own: nobody works, packs or brings. */
  holidays: z.array(localDateSchema).max(400).default([]),
  /** Working days until a bench is free, at least: what other machines wait for is reckoned. */
  queueDays: z.number().int().min(0).max(60).default(1),
  /** How many people work at benches at the same time. */
  benches: z.number().int().min(1).max(20).default(1),
  /** The air where sealant cures: °C, and relative humidity as a share. */
  roomCelsius: z.number().min(2).max(45).default(20),
  roomHumidity: z.number().min(0.1).max(0.98).default(0.5),
  /** Days from the customer's yes to the day on which the machine is wanted back. */
  promiseDays: z.number().int().min(1).max(60),
  /** Tools that the shop has not got: ways round them are taken where there are any. */
  lackingTools: z.array(z.string().max(80)).max(200).default([]),
  /** What was learned from closed tickets and does not count all the same, by its key. */
  notLearned: z.array(z.string().max(120)).max(200).default([]),
  /** What this shop measures with, as its papers name it. */
  instruments: z.array(z.string().trim().min(1).max(80)).max(30).default([]),
  /** Days in which what goes back to a supplier has to be on its way. */
  returnDays: z.number().int().min(1).max(365).default(14),
  /** What a part that lies on the shelf costs in a year, of its price: money, room, what gets old. */
  holdingBasisPoints: z.number().int().min(0).max(100_000).default(2000),
  /** Sundries that are not kept on the shelf: they are bought for the job. */
  lackingStock: z.array(z.string().max(80)).max(200).default([]),
});
export type Settings = z.infer<typeof settingsSchema>;

export const defaultSettings = (): Settings => ({
  shopName: 'My shop',
  address: '',
  phone: '',
  zone: 'UTC',
  currency: 'EUR',
  labourPerHour: { amountMinor: 5400, currency: 'EUR' },
  taxBasisPoints: 1900,
  inspectionFee: { amountMinor: 3500, currency: 'EUR' },
  feeWaivedIfRepaired: true,
  partsMarkupBasisPoints: 3000,
  markupTiers: [],
  taxStyle: 'added',
  labourTaxBasisPoints: null,
  collectionFee: null,
  deliveryFee: null,
  usedPartsBasisPoints: 4000,
  depositBasisPoints: 0,
  warrantyMonths: 12,
  validDays: 14,
  reserveBasisPoints: 600,
  latePerDay: { amountMinor: 350, currency: 'EUR' },
  disruption: { amountMinor: 4000, currency: 'EUR' },
  rho: 0.05,
  rules: { shareOfNew: 0.5, maxAgeYears: 12, ageTimesQuote: 4 },
  repairModel: 'minimal',
  opensWeldedTubs: false,
  enoughCertainty: 0.75,
  shopDays: [1, 2, 3, 4, 5, 6],
  carrierDays: [1, 2, 3, 4, 5, 6],
  closesAt: '17:00',
  supplierDays: [1, 2, 3, 4, 5],
  holidays: [],
  queueDays: 1,
  benches: 1,
  roomCelsius: 20,
  roomHumidity: 0.5,
  promiseDays: 6,
  lackingTools: [],
  notLearned: [],
  instruments: [],
  holdingBasisPoints: 2000,
  returnDays: 14,
  lackingStock: ['tub-gasket'],
});

/** The air in which this shop's joints cure. */
export const roomOf = ({ roomCelsius, roomHumidity }: Pick<Settings, 'roomCelsius' | 'roomHumidity'>): Room => ({
  celsius: roomCelsius,
  humidity: roomHumidity,
});
