import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useAddress } from '../shell/addresses';
import { DeskLink } from '../shell/lens';
import { PageHeading } from '../shell/PageHeading';
import { Empty, Failure, Loading } from '../shell/states';
import { words } from '../words/en';
import { ChoosePerson, usePreview } from './arrange/Preview';
import { PortalTabs } from './PortalTabs';
import { whereIs } from './whereabouts';

/** For the help desk: what to say to somebody who looks for a tile. */
export function WherePage() {
  const [get, set] = useAddress();
  const person = get('person');
  const preview = usePreview(undefined, person !== '');
  const [copied, setCopied] = useState(false);
  const page = preview.data?.page;
  const tiles = (page?.sections ?? []).flatMap((section) => section.tiles);
  const names = [...new Map(tiles.map((tile) => [tile.id, tile])).values()].sort((one, other) =>
    one.name.localeCompare(other.name),
  );
  const found =
    page === undefined || get('tile') === '' ? undefined : whereIs(page.sections, get('tile'));
  const name = names.find((tile) => tile.id === get('tile'))?.name ?? '';
  const link = `${window.location.origin}/?tile=${get('tile')}`;
  return (
    <>
      <PortalTabs />
      <header>
        <PageHeading>{words.where.title}</PageHeading>
      </header>
      <p className="dim small">{words.where.help}</p>
      <div className="sheet where">
        <h2>{words.where.who}</h2>
        <ChoosePerson onChoose={(id) => set({ person: id, tile: '' })} />
        {person === '' ? null : preview.error ? (
          <Failure error={preview.error} again={() => preview.refetch()} />
        ) : preview.data === undefined || page === undefined ? (
          <Loading what={words.arrange.preview} lines={3} />
        ) : (
          <>
            <p>
              <b>{preview.data.person?.familyFirst}</b>{' '}
              <span className="dim">{preview.data.person?.unit}</span>{' '}
              <DeskLink to={`/desk/people/${person}`} className="small">
                {words.where.record}
              </DeskLink>
            </p>
            <Form.Group className="field" controlId="where-tile">
              <Form.Label>{words.where.what}</Form.Label>
              <Form.Select
                value={get('tile')}
                onChange={(event) => {
                  setCopied(false);
                  set({ tile: event.target.value });
                }}
              >
                <option value="">{words.where.choose(names.length)}</option>
                {names.map((tile) => (
                  <option key={tile.id} value={tile.id}>
                    {tile.name}
                    {tile.offered !== null ? ` (${words.portal.offered})` : ''}
                  </option>
                ))}
              </Form.Select>
              <Form.Text>{words.where.notThere}</Form.Text>
            </Form.Group>
            {found !== undefined && (
              <section aria-label={words.where.say}>
                <h3>{words.where.say}</h3>
                <blockquote className="say" dir="auto">
                  {words.where.sentence(
                    found.section.id === null ? words.portal.also : found.section.name,
                    found.place,
                    found.type,
                    name,
                  )}
                </blockquote>
                <h3>{words.where.link}</h3>
                <div className="bar">
                  <code className="wrap">{link}</code>
                  <Button
                    size="sm"
                    variant="outline-primary"
                    onClick={async () => {
                      await navigator.clipboard.writeText(link);
                      setCopied(true);
                    }}
                  >
                    {copied ? words.where.copied : words.where.copy}
                  </Button>
                </div>
                <p className="small dim">{words.where.linkHelp}</p>
              </section>
            )}
            {names.length === 0 && <Empty title={words.portal.empty} />}
          </>
        )}
      </div>
    </>
  );
}
