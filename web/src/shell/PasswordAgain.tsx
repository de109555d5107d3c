import { createContext, type ReactNode, useCallback, useContext, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import { answer, api, Problem } from '../api/client';
import { words } from '../words/en';
import { TextField } from './TextField';

type Fresh = <T>(work: () => Promise<T>) => Promise<T>;

const Context = createContext<Fresh>((work) => work());

/** Does something that needs a fresh sign-in; asks for the password where it is not. */
export function useFresh(): Fresh {
  return useContext(Context);
}

export function PasswordAgain({ children }: { children: ReactNode }) {
  const [asking, setAsking] = useState(false);
  const [password, setPassword] = useState('');
  const [wrong, setWrong] = useState<string>();
  const waiting = useRef<{ go: () => void; leave: (error: unknown) => void }>(undefined);

  const fresh = useCallback<Fresh>(async (work) => {
    try {
      return await work();
    } catch (error) {
      if (!(error instanceof Problem) || error.code !== 'fresh-sign-in') {
        throw error;
      }
      await new Promise<void>((go, leave) => {
        waiting.current = { go, leave };
        setPassword('');
        setWrong(undefined);
        setAsking(true);
      });
      return work();
    }
  }, []);

  const confirm = async () => {
    try {
      await answer(api.POST('/api/me/confirm', { body: { password } }));
      setAsking(false);
      waiting.current?.go();
    } catch (error) {
      setWrong(error instanceof Error ? error.message : String(error));
    }
  };

  const leave = () => {
    setAsking(false);
    waiting.current?.leave(new Error(words.signOn.confirmHelp));
  };

  return (
    <Context.Provider value={fresh}>
      {children}
      <Modal show={asking} onHide={leave} aria-labelledby="password-again">
        <Form
          onSubmit={(event) => {
            event.preventDefault();
            void confirm();
          }}
        >
          <Modal.Body>
            <h2 id="password-again">{words.signOn.confirmTitle}</h2>
            <p className="dim">{words.signOn.confirmHelp}</p>
            <TextField
              id="password-again-field"
              label={words.signOn.password}
              type="password"
              autoFocus
              autoComplete="current-password"
              value={password}
              onChange={setPassword}
              wrong={wrong}
            />
          </Modal.Body>
          <Modal.Footer>
            <Button variant="outline-primary" onClick={leave}>
              {words.shell.cancel}
            </Button>
            <Button type="submit">{words.signOn.confirm}</Button>
          </Modal.Footer>
        </Form>
      </Modal>
    </Context.Provider>
  );
}
