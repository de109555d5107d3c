import { words } from '../words/en';

const TONES: Record<string, string> = { heavy: 'loss', middling: 'wait' };

/** How much something can do; quiet: only where it is heavy. */
export function WeightTag({ weight, quiet = false }: { weight: string; quiet?: boolean }) {
  if (quiet && weight !== 'heavy') {
    return null;
  }
  return (
    <span className={`tag ${TONES[weight] ?? ''}`}>{words.access.weights[weight] ?? weight}</span>
  );
}
