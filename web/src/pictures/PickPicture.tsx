import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import { answer, api } from '../api/client';
import { words } from '../words/portal';
import { Picture } from './Picture';
import { UploadPicture } from './UploadPicture';

/** Chooses a picture of the small set and its colour, or uploads one where that may be. */
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
  const [text, setText] = useState('');
  const uploaded = picture.startsWith('own:');
  const shown = (set.data?.pictures ?? (uploaded ? [] : [picture])).filter(
    (one) => one.includes(text.trim().toLowerCase()) || one === picture,
  );
  return (
    <>
      <fieldset className="field">
        <legend>{words.pictures.picture}</legend>
        <Form.Control
          type="text"
          size="sm"
          style={{ maxWidth: '14rem' }}
          aria-label={words.pictures.find}
          placeholder={words.pictures.find}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <div className="picks">
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
          <div className="invalid-feedback" role="alert">
            {wrong}
          </div>
        )}
      </fieldset>
      <fieldset className="field" hidden={uploaded}>
        <legend>{words.pictures.hue}</legend>
        <div className="picks">
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
      </fieldset>
    </>
  );
}
