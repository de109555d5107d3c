import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useSearchParams } from 'react-router';
import { describe, expect, it } from 'vitest';
import { draw } from '../testing/page';
import { FindField } from './FindField';

function Page() {
  const [parameters, setParameters] = useSearchParams();
  return (
    <>
      <FindField label="Name" />
      <p>address: {parameters.toString()}</p>
      <button type="button" onClick={() => setParameters({})}>
        clear
      </button>
    </>
  );
}

describe('a field whose text stands in the address', () => {
  it('loses no letter, tells the address, and follows it', async () => {
    draw(<Page />, '/?unit=Safety&find=a');
    const field = screen.getByLabelText<HTMLInputElement>('Name');
    expect(field.value).toBe('a');
    await userEvent.type(field, 'bara, nils', { delay: null });
    expect(field.value).toBe('abara, nils');
    expect(await screen.findByText(/find=abara%2C\+nils/)).toBeTruthy();
    expect(screen.getByText(/unit=Safety/)).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'clear' }));
    expect(field.value).toBe('');
  });
});
