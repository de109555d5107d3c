import type { Schemas } from '../../api/client';
import { DeskLink } from '../../shell/lens';
import { words } from '../../words/en';

const TONES: Record<string, string> = { active: 'calm', expected: 'wait', paused: 'wait' };

export function StatusTag({ status }: { status: string }) {
  return (
    <span className={`tag ${TONES[status] ?? ''}`}>{words.people.statuses[status] ?? status}</span>
  );
}

export function AttributeList({
  person,
  linked = true,
}: {
  person: Schemas['PersonView'];
  linked?: boolean;
}) {
  const sources = new Set(person.attributes.map((attribute) => attribute.source));
  const only = sources.size === 1 ? person.attributes[0]?.source : undefined;
  return (
    <>
      <dl className="pair">
        {person.attributes.map((attribute) => (
          <div key={attribute.name} className="contents">
            <dt>{attribute.label}</dt>
            <dd>
              {attribute.values.map((value, index) => (
                <span key={value.text}>
                  {index > 0 && ', '}
                  {value.person === null || !linked ? (
                    value.text
                  ) : (
                    <DeskLink to={`/desk/people/${value.person}`}>{value.text}</DeskLink>
                  )}
                </span>
              ))}
              {attribute.source !== null && !only && (
                <span className="dim small"> {words.people.from(attribute.source)}</span>
              )}
            </dd>
          </div>
        ))}
      </dl>
      {only && <p className="dim small note-line">{words.people.allFrom(only)}</p>}
    </>
  );
}

/** Each group with the chain of groups through which the person is in it. */
export function GroupChains({
  groups,
  linked,
  none,
}: {
  groups: Schemas['PersonGroup'][];
  linked: boolean;
  none: string;
}) {
  if (groups.length === 0) {
    return <p className="dim">{none}</p>;
  }
  return (
    <ul className="plain">
      {groups.map((group) => (
        <li key={group.id} className="room-below">
          <span className="chain">
            {group.chain.map((step, index) => (
              <span key={step.id} className="chain">
                {index > 0 && <span aria-hidden>→</span>}
                {index === group.chain.length - 1 ? (
                  linked ? (
                    <DeskLink to={`/desk/groups/${step.id}`}>
                      <b>{step.name}</b>
                    </DeskLink>
                  ) : (
                    <b>{step.name}</b>
                  )
                ) : (
                  <span className="step">{step.name}</span>
                )}
              </span>
            ))}
            <span className="dim small">{words.groups.forms[group.form]}</span>
          </span>
        </li>
      ))}
    </ul>
  );
}
