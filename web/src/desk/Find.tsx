import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import Modal from 'react-bootstrap/Modal';
import { useNavigate } from 'react-router';
import { answer, api, Problem } from '../api/client';
import { Combobox, type Option } from '../shell/Combobox';
import { useDeskAddress } from '../shell/lens';
import { useSession } from '../shell/session';
import { words } from '../words/en';

type Hit = Option & { to: string };

/** A request's number, as people write it. */
const NUMBER = /^(?:r-?)?(\d{1,9})$/i;

/** Finds people, groups, applications and entitlements by any part of a name, and goes there. */
export function Find({ onClose }: { onClose: () => void }) {
  const [text, setText] = useState('');
  const wanted = useDeferredValue(text.trim());
  const navigate = useNavigate();
  const address = useDeskAddress();
  const reads = useSession().has('people.read');
  const found = useQuery({
    queryKey: ['find', wanted],
    queryFn: () => answer(api.GET('/api/find', { params: { query: { text: wanted } } })),
    enabled: wanted !== '',
    placeholderData: keepPreviousData,
  });
  const number = NUMBER.exec(wanted)?.[1];
  const numbered = useQuery({
    queryKey: ['find', 'request', number],
    queryFn: () =>
      answer(
        api.GET('/api/requests/numbered/{number}', {
          params: { path: { number: Number(number) } },
        }),
      ).catch((error) => {
        if (error instanceof Problem && error.view.status === 404) {
          return null;
        }
        throw error;
      }),
    enabled: number !== undefined,
  });
  const data = wanted === '' ? undefined : found.data;
  const request = number === undefined ? undefined : numbered.data;
  const hits: Hit[] = [
    ...(request == null
      ? []
      : [
          {
            key: request.id,
            to: `/desk/docket/request/${request.id}`,
            title: request.number,
            line: words.shell.findRequest(request.person, request.title),
          },
        ]),
    ...(reads ? (data?.people ?? []) : []).map((person) => ({
      key: person.id,
      to: `/desk/people/${person.id}`,
      title: person.familyFirst,
      line: [person.title, person.unit, person.site].filter(Boolean).join(' · '),
    })),
    ...(data?.groups ?? []).map((group) => ({
      key: group.id,
      to: `/desk/groups/${group.id}`,
      title: group.name,
      line: words.shell.group,
    })),
    ...(data?.apps ?? []).map((app) => ({
      key: app.id,
      to: `/desk/apps/${app.id}`,
      title: app.name,
      line: `${words.shell.apps} · ${words.apps.states[app.state] ?? app.state}`,
    })),
    ...(data?.entitlements ?? []).map((one) => ({
      key: one.id,
      to: `/desk/entitlements/${one.id}`,
      title: one.title,
      line: one.line,
    })),
  ];
  const more =
    data === undefined
      ? 0
      : (reads ? data.peopleTotal - data.people.length : 0) + data.groupsTotal - data.groups.length;
  const go = (hit: Hit) => {
    onClose();
    navigate(address(hit.to));
  };
  return (
    <Modal show onHide={onClose} aria-label={words.shell.findLabel}>
      <Modal.Body>
        <Combobox
          label={words.shell.findLabel}
          text={text}
          onText={setText}
          options={hits}
          onTake={go}
          nothing={
            data !== undefined && !found.isPlaceholderData && hits.length === 0
              ? words.shell.findNothing(wanted)
              : undefined
          }
          more={more > 0 && words.shell.findMore(more)}
          field={{
            'aria-label': words.shell.findLabel,
            placeholder: words.shell.findHint,
            autoFocus: true,
          }}
        />
      </Modal.Body>
    </Modal>
  );
}
