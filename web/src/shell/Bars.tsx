/**
 * A bar for each value, as high as its share of the largest; the last stands apart.
 *
 * @param titles what each bar says under the mouse
 */
export function Bars({
  values,
  label,
  titles,
}: {
  values: number[];
  label: string;
  titles?: string[];
}) {
  const most = Math.max(1, ...values);
  return (
    <svg
      className="weeks"
      viewBox={`0 0 ${values.length * 8} 42`}
      preserveAspectRatio="none"
      role="img"
      aria-label={label}
    >
      {values.map((value, index) => {
        const height = value === 0 ? 0.6 : Math.max(2, (40 * value) / most);
        return (
          <rect
            // biome-ignore lint/suspicious/noArrayIndexKey: one for each week, in order
            key={index}
            x={index * 8 + 1}
            y={42 - height}
            width={6}
            height={height}
            className={index === values.length - 1 ? 'open' : undefined}
          >
            {titles !== undefined && <title>{titles[index]}</title>}
          </rect>
        );
      })}
    </svg>
  );
}
