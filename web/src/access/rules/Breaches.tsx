import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import type { Schemas } from '../../api/client';
import { DeskLink } from '../../shell/lens';
import { useSession } from '../../shell/session';
import { Table } from '../../shell/Table';
import { lastDay, tellDay } from '../../shell/times';
import { words } from '../../words/en';
import { AcceptDialog, type Pair } from './AcceptDialog';

type Breach = Schemas['Breach'];

/** Who holds both sides of a rule; each side leads to where it can be ended. */
export function Breaches({
  breaches,
  rule,
  label,
}: {
  breaches: Breach[];
  /** Null where the rule is not there yet, so that nothing can be accepted. */
  rule: { id: string; name: string } | null;
  label: string;
}) {
  const { zone } = useSession();
  const [accepting, setAccepting] = useState<Pair>();
  return (
    <>
      <Table className="lines" aria-label={label}>
        <thead>
          <tr>
            <th scope="col">{words.rules.person}</th>
            <th scope="col">{words.rules.one}</th>
            <th scope="col">{words.rules.other}</th>
            <th scope="col">{words.rules.stands}</th>
          </tr>
        </thead>
        <tbody>
          {breaches.map((breach) => (
            <tr key={breach.person.id + breach.one.id + breach.other.id}>
              <td>
                <DeskLink to={`/desk/people/${breach.person.id}/holdings`}>
                  {breach.person.familyFirst}
                </DeskLink>{' '}
                <span className="dim small">{breach.person.unit}</span>
              </td>
              {[breach.one, breach.other].map((side) => (
                <td key={side.id}>
                  <DeskLink to={`/desk/people/${breach.person.id}/holdings?holding=${side.id}`}>
                    {side.title}
                  </DeskLink>
                </td>
              ))}
              <td>
                {breach.acceptedUntil === null ? (
                  <span className="tag loss">{words.rules.open}</span>
                ) : (
                  <span className="tag">
                    {words.rules.acceptedUntil(tellDay(lastDay(zone, breach.acceptedUntil)))}
                  </span>
                )}{' '}
                {rule !== null && breach.mayAccept && (
                  <Button
                    variant="link"
                    onClick={() =>
                      setAccepting({
                        rule: rule.id,
                        ruleName: rule.name,
                        person: breach.person,
                        one: breach.one.id,
                        oneTitle: breach.one.title,
                        other: breach.other.id,
                        otherTitle: breach.other.title,
                      })
                    }
                  >
                    {words.rules.acceptOpen}
                  </Button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
      {accepting !== undefined && (
        <AcceptDialog pair={accepting} onClose={() => setAccepting(undefined)} />
      )}
    </>
  );
}
