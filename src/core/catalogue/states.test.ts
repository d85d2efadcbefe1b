import { describe, expect, it } from 'vitest';
import { demoCatalogue, platform } from '../../../tests/support/demo';
import { broughtTo, knowledgeFor } from '.';

const catalogue = demoCatalogue();
const operationOn = (platformId: string, id: string, changes = catalogue.state_changes) => {
  const { operations } = knowledgeFor({ ...catalogue, state_changes: changes }, platform(platformId));
  const found = operations.find((operation) => operation.id === id);
  if (!found) throw new Error(id);
  return found;
};

describe('an operation that brings a machine to a state', () => {
  it('takes the minutes, people, support and cautions of the changes, there and back', () => {
    for (const { id } of catalogue.platforms)
      for (const operation of knowledgeFor(catalogue, platform(id)).operations) {
        const brought = broughtTo(operation);
        if (brought.length === 0) continue;
        expect(operation.stripMinutes, `${id} ${operation.id}`).toBeGreaterThan(0);
        expect(operation.refitMinutes, `${id} ${operation.id}`).toBeGreaterThan(0);
        expect(operation.cautions.length, `${id} ${operation.id}`).toBeGreaterThan(0);
      }
    expect(operationOn('fj-a1', 'isolate')).toMatchObject({ stripMinutes: 1.5, refitMinutes: 1.5 });
    expect(operationOn('fj-a1', 'tilt-back')).toMatchObject({ people: 2, stripMinutes: 5, refitMinutes: 3 });
    expect(operationOn('fj-a1', 'tilt-back').tools).toContain('wedge');
  });

  it('follows the platform’s own word on a change, and stays as it is where nobody lists one', () => {
    expect(operationOn('qu-d5', 'tilt-back').stripMinutes).toBeGreaterThan(
      operationOn('fj-a1', 'tilt-back').stripMinutes,
    );
    expect(operationOn('fj-a1', 'tilt-back', []).stripMinutes).toBe(0);
  });

  it('says nothing twice: an override may give only the cells that differ', () => {
    const own = operationOn('fj-a2', 'tub-split');
    expect(own.title).toMatch(/welded/i);
    expect(own.opensTub).toBe('yes');
  });
});
