import Form from 'react-bootstrap/Form';
import { useAddress } from '../shell/addresses';
import { FindField } from '../shell/FindField';
import { words } from '../words/en';

/** Narrows the approved list by text and category; both stand in the address. */
export function ApprovedBar({
  categories,
  found,
}: {
  categories: [string, string][];
  found: number;
}) {
  const [get, set] = useAddress();
  return (
    <div className="bar">
      <FindField label={words.suggestions.find} className="broad" />
      <Form.Select
        className="own-width"
        aria-label={words.suggestions.category}
        value={get('kind')}
        onChange={(event) => set({ kind: event.target.value })}
      >
        <option value="">{words.suggestions.allKinds}</option>
        {categories.map(([category, told]) => (
          <option key={category} value={category}>
            {told}
          </option>
        ))}
      </Form.Select>
      <span className="dim small" role="status">
        {words.suggestions.fits(found)}
      </span>
    </div>
  );
}
