import { useSearchParams } from 'react-router';

/** Keeps a view's filters in its address, so that it can be sent to a colleague. */
export function useAddress(): [
  (name: string) => string,
  (changes: Record<string, string>) => void,
] {
  const [parameters, setParameters] = useSearchParams();
  return [
    (name) => parameters.get(name) ?? '',
    (changes) =>
      setParameters(
        (before) => {
          const next = new URLSearchParams(before);
          for (const [name, value] of Object.entries(changes)) {
            if (value === '') {
              next.delete(name);
            } else {
              next.set(name, value);
            }
          }
          return next;
        },
        { replace: true },
      ),
  ];
}
