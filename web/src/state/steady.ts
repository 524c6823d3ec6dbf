import { useEffect, useRef, useState } from 'react';

const between = 200; // ms from one request to the next: at most five a second while somebody types

/** A request as it is asked: at once after a pause, and while it keeps changing five times a
    second, the latest last. Waiting says that a later one has not been asked yet. */
export function useSteady<T>(value: T): { value: T; waiting: boolean } {
  const key = JSON.stringify(value);
  const [asked, setAsked] = useState({ key, value });
  const last = useRef(0);
  const latest = useRef(value);
  useEffect(() => {
    latest.current = value;
  });
  useEffect(() => {
    if (key === asked.key) return;
    const ask = () => {
      last.current = performance.now();
      setAsked({ key, value: latest.current });
    };
    const wait = last.current + between - performance.now();
    const timer = setTimeout(ask, Math.max(0, wait));
    return () => clearTimeout(timer);
  }, [key, asked.key]);
  return { value: asked.value, waiting: key !== asked.key };
}

const pause = 600; // ms after which somebody is not typing any more

/** Whether a value has stood still for a moment. What is wrong with a figure that is half typed is
    not written below it: the fields would jump away from under the hand. */
export function useCalm(value: unknown): boolean {
  const key = JSON.stringify(value);
  const [calm, setCalm] = useState(key);
  useEffect(() => {
    const timer = setTimeout(() => setCalm(key), pause);
    return () => clearTimeout(timer);
  }, [key]);
  return calm === key;
}

const slow = 700; // ms after which an answer that is on its way is missed

/** Whether something has been awaited for so long that it has to be said. */
export function useSlow(waiting: boolean): boolean {
  const [late, setLate] = useState(false);
  useEffect(() => {
    if (!waiting) return;
    const timer = setTimeout(() => setLate(true), slow);
    return () => {
      clearTimeout(timer);
      setLate(false);
    };
  }, [waiting]);
  return waiting && late;
}
