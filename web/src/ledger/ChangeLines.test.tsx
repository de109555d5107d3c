import { describe, expect, it } from 'vitest';
import { draw } from '../testing/page';
import { ChangeLines } from './ChangeLines';

const AT = '2026-03-02T08:00:00Z';
const ODA = { kind: 'person', id: 'p1', name: 'Oda Brekke' };
const DESK = { kind: 'group', id: 'g1', name: 'Refund desk' };

function told(change: Parameters<typeof ChangeLines>[0]['changes'][number], of?: string): string {
  const { container } = draw(<ChangeLines changes={[change]} at={AT} of={of} />);
  return container.textContent ?? '';
}

describe('a change', () => {
  it('tells before and after, and times only where they differ from the act', () => {
    const text = told({
      kind: 'ATTRIBUTE',
      objects: [ODA],
      what: 'Unit',
      before: { value: 'Ticketing', from: '2025-01-01T00:00:00Z', until: null },
      after: { value: 'Finance', from: AT, until: null },
      erased: false,
    });
    expect(text).toBe('Oda Brekke · Unit: − Ticketing + Finance');
  });

  it('leaves out the thing whose page it stands on', () => {
    const text = told(
      {
        kind: 'MEMBERSHIP',
        objects: [DESK, ODA],
        what: '',
        before: null,
        after: { value: '', from: AT, until: '2026-04-01T00:00:00Z' },
        erased: false,
      },
      'p1',
    );
    expect(text).toContain('Refund desk · Member: + ');
    expect(text).toContain('until');
    expect(text).not.toContain('Oda');
  });

  it('says where a value was erased', () => {
    const text = told({
      kind: 'NAME',
      objects: [ODA],
      what: '',
      before: null,
      after: { value: 'erased', from: AT, until: null },
      erased: true,
    });
    expect(text).toContain('erased');
  });
});
