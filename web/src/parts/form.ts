import { useState, type ChangeEvent, type FormEvent } from 'react';

/** What is typed in a form, by the names of its fields. */
export function useTyped<T extends object>(empty: T) {
  const [typed, setTyped] = useState(empty);
  const put = (part: Partial<T>) => setTyped((was) => ({ ...was, ...part }));
  /** A field's name, what stands in it and what is typed there. */
  const field = (name: keyof T & string) => ({
    name,
    value: typed[name] as string,
    onChange: (e: ChangeEvent<HTMLInputElement | HTMLTextAreaElement>) => put({ [name]: e.target.value } as unknown as Partial<T>),
  });
  return { typed, put, field, clear: () => setTyped(empty) };
}

/** A form's act, in place of the browser's own. */
export const submits = (act: () => void) => (e: FormEvent) => {
  e.preventDefault();
  act();
};
