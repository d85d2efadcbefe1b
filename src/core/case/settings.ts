import { moneySchema } from '../units';
import * as z from '../units/zod';

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
  /** Put aside for work that comes back, of the labour. */
  reserveBasisPoints: z.number().int().min(0).max(5000),
  /** What a day without the machine costs the customer. */
  latePerDay: moneySchema,
  /** What each later failure costs the owner beside the bill: days without washing, a visit. */
  disruption: moneySchema,
  /** Yearly rate at which later money counts less. */
  rho: z.number().min(0.001).max(0.5),
  rules: z.object({ shareOfNew: z.number().min(0.05).max(2), maxAgeYears: z.number().min(1).max(60) }),
  repairModel: z.enum(['minimal', 'renewal']),
  opensWeldedTubs: z.boolean(),
  /** Above this probability the cause counts as found. */
  enoughCertainty: z.number().min(0.5).max(0.999),
  /** Days from the customer's yes to the day on which the machine is wanted back. */
  promiseDays: z.number().int().min(1).max(60),
  /** Tools that the shop has not got: ways round them are taken where there are any. */
  lackingTools: z.array(z.string().max(80)).max(200).default([]),
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
  reserveBasisPoints: 400,
  latePerDay: { amountMinor: 350, currency: 'EUR' },
  disruption: { amountMinor: 4000, currency: 'EUR' },
  rho: 0.05,
  rules: { shareOfNew: 0.5, maxAgeYears: 12 },
  repairModel: 'minimal',
  opensWeldedTubs: false,
  enoughCertainty: 0.75,
  promiseDays: 6,
  lackingTools: [],
});
