import { words } from '../words/en';

const STEPS: Record<string, number> = { low: 1, medium: 2, high: 3 };

/** How much something can do, in three steps and in a word; quiet: only where it is high. */
export function SensitivityTag({
  sensitivity,
  quiet = false,
}: {
  sensitivity: string;
  quiet?: boolean;
}) {
  if (quiet && sensitivity !== 'high') {
    return null;
  }
  const steps = STEPS[sensitivity] ?? 0;
  return (
    <span className={`sensitivity ${sensitivity}`}>
      <svg width="15" height="11" viewBox="0 0 15 11" aria-hidden="true">
        {[1, 2, 3].map((step) => (
          <rect
            key={step}
            x={(step - 1) * 5.4}
            y={11 - (3 + step * 2.6)}
            width="4"
            height={3 + step * 2.6}
            className={step <= steps ? 'reached' : undefined}
          />
        ))}
      </svg>
      {words.access.sensitivities[sensitivity] ?? sensitivity}
    </span>
  );
}
