import { useQuery } from '@tanstack/react-query';
import { answer, api } from '../api/client';
import { words } from '../words/en';
import { Picture } from './Picture';

/** Chooses a picture of the small set, and its colour. */
export function PickPicture({
  picture,
  hue,
  onChange,
}: {
  picture: string;
  hue: string;
  onChange: (picture: string, hue: string) => void;
}) {
  const set = useQuery({
    queryKey: ['pictures'],
    queryFn: () => answer(api.GET('/api/pictures')),
    staleTime: Number.POSITIVE_INFINITY,
  });
  return (
    <>
      <fieldset className="field">
        <legend>{words.pictures.picture}</legend>
        <div className="picks">
          {(set.data?.pictures ?? [picture]).map((one) => (
            <label key={one} title={one}>
              <input
                type="radio"
                name="picture"
                className="visually-hidden"
                aria-label={one}
                checked={one === picture}
                onChange={() => onChange(one, hue)}
              />
              <Picture name={one} hue={hue} size={34} />
            </label>
          ))}
        </div>
      </fieldset>
      <fieldset className="field">
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
