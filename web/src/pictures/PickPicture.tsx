import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { answer, api } from '../api/client';
import { words } from '../words/portal';
import { Picture } from './Picture';
import { UploadPicture } from './UploadPicture';

/**
 * Chooses a picture of the small set and its colour, or uploads one where that may be. What there
 * is to choose from is folded away until it is wanted.
 */
export function PickPicture({
  picture,
  hue,
  own = false,
  wrong,
  onChange,
}: {
  picture: string;
  hue: string;
  /** Whether pictures of one's own may be uploaded. */
  own?: boolean;
  wrong?: string;
  onChange: (picture: string, hue: string) => void;
}) {
  const set = useQuery({
    queryKey: ['pictures'],
    queryFn: () => answer(api.GET('/api/pictures')),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const [open, setOpen] = useState(false);
  const [text, setText] = useState('');
  const uploaded = picture.startsWith('own:');
  const shown = (set.data?.pictures ?? (uploaded ? [] : [picture])).filter(
    (one) => one.includes(text.trim().toLowerCase()) || one === picture,
  );
  const shows = open || wrong !== undefined;
  return (
    <fieldset className="field">
      <legend>{words.pictures.picture}</legend>
      <div className="bar picked">
        <Picture name={picture} hue={hue} size={42} />
        <span className="dim">
          {uploaded ? words.pictures.own : words.pictures.chosen(picture, hue)}
        </span>
        <Button
          variant="outline-primary"
          size="sm"
          aria-expanded={shows}
          onClick={() => setOpen(!shows)}
        >
          {shows ? words.pictures.fold : words.pictures.other}
        </Button>
      </div>
      {shows && (
        <div className="unfolded">
          <Form.Control
            type="text"
            size="sm"
            className="middling"
            aria-label={words.pictures.find}
            placeholder={words.pictures.find}
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
          <div className="picks" role="radiogroup" aria-label={words.pictures.picture}>
            {(uploaded ? [picture, ...shown] : shown).map((one) => (
              <label key={one} title={one.startsWith('own:') ? words.pictures.own : one}>
                <input
                  type="radio"
                  name="picture"
                  className="visually-hidden"
                  aria-label={one.startsWith('own:') ? words.pictures.own : one}
                  checked={one === picture}
                  onChange={() => onChange(one, hue)}
                />
                <Picture name={one} hue={hue} size={34} />
              </label>
            ))}
          </div>
          {own && <UploadPicture onDone={(kept) => onChange(kept, hue)} />}
          {wrong !== undefined && (
            <div className="invalid-feedback d-block" role="alert">
              {wrong}
            </div>
          )}
          {!uploaded && (
            <div className="picks" role="radiogroup" aria-label={words.pictures.hue}>
              {(set.data?.hues ?? [hue]).map((one) => (
                <label key={one} title={one}>
                  <input
                    type="radio"
                    name="hue"
                    className="visually-hidden"
                    aria-label={one}
                    checked={one === hue}
                    onChange={() => onChange(picture, one)}
                  />
                  <Picture name={picture} hue={one} size={34} />
                </label>
              ))}
            </div>
          )}
        </div>
      )}
    </fieldset>
  );
}
