import { asId, type Branded, type MakerId, type ModelId, type PartId, type SupplierId } from '../units';
import { normaliseNumber } from './plate/normal';

/*
 * What no catalogue lists is named by what it says: the same number is the same thing, on every ticket. These ids are of the shop's own rows.
 */
const LONGEST = 150;
const numbered = <Id extends Branded<string>>(kind: string, text: string): Id =>
  asId(`${kind}:${(normaliseNumber(text) || text.trim().toUpperCase()).slice(0, LONGEST)}`);

const called = <Id extends Branded<string>>(kind: string, name: string): Id =>
  asId(`${kind}:${name.trim().replace(/\s+/g, ' ').toLowerCase().slice(0, LONGEST)}`);

/** A machine by the number on its plate. */
export const unlistedModel = (text: string): ModelId => numbered('unlisted', text);
export const isUnlistedModel = (id: string): boolean => id.startsWith('unlisted:');

/** A part by its number, as typed or as a supplier named it. */
export const typedPart = (number: string): PartId => numbered('typed', number);

/** A supplier that somebody named. */
export const namedSupplier = (name: string): SupplierId => called('supplier', name);

/** A make that somebody read off the machine. */
export const namedMaker = (name: string): MakerId => called('make', name);

/** The make of a machine on which nobody read one. */
export const UNKNOWN_MAKE = {
  makerId: asId<MakerId>('make:unknown'),
  badgeId: 'badge:unknown',
  name: 'Make not known',
};

/** A machine whose plate is gone or cannot be read: nothing is remembered by that. */
export const NO_PLATE = 'no plate';
export const isNoPlate = (text: string): boolean => normaliseNumber(text) === normaliseNumber(NO_PLATE);
