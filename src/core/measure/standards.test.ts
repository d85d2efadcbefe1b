import { describe, expect, it } from 'vitest';
import { BEARINGS, standardKindOf, standardNumbers } from '.';

describe('parts that are sold by their size', () => {
  it('are bearings by bore, outside and width, every one of the list, also a little worn', () => {
    for (const { designation, bore, outside, width } of BEARINGS.filter((_, index) => index % 5 === 0)) {
      expect(standardNumbers('bearing', `${bore} x ${outside} x ${width}`)).toContain(designation);
      expect(standardNumbers('bearing', `${bore + 0.1} ${outside} ${width - 0.2}`)).toContain(designation);
    }
    expect(standardNumbers('bearing', '6205')).toEqual(['6205']);
    expect(standardNumbers('bearing', '25 x 52')).toEqual([]);
  });

  it('are seals, belts and hoses by what a shop asks for at the counter', () => {
    expect(standardNumbers('seal', '35 × 52 × 8.5')).toEqual(['35x52x8.5']);
    expect(standardNumbers('seal', '52x35x8')).toEqual([]);
    expect(standardNumbers('belt', '1204 mm, 5 ribs')).toEqual(['5 PJ 1204']);
    expect(standardNumbers('belt', '5 x 1204')).toEqual(['5 PJ 1204']);
    expect(standardNumbers('belt', '40 ribs 1204')).toEqual([]);
    expect(standardNumbers('hose', '19 x 2000')).toEqual(['19x2000']);
  });

  it('are told by what they do', () => {
    expect(standardKindOf('belt')).toBe('belt');
    expect(standardKindOf('board')).toBeNull();
  });
});
