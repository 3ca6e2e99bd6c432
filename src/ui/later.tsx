'use client';
import { type ComponentType, useEffect, useState } from 'react';
import { Button } from '@/ui/Button';
import { toast } from '@/ui/toast';

/*
 * Parts of the program that come after what is needed first: the stages that are not open, and windows. They are loaded when they
 * are shown, and all of them once the page is calm, so that a server that stops later keeps none from being shown.
 */

type Deferred<What> = { readonly load: () => Promise<What>; readonly loaded: () => What | undefined };

/** A part of the program that is loaded when it is needed. */
export type Part<Props> = Deferred<ComponentType<Props>>;

export const NOT_LOADED = 'This part of the program could not be loaded, since the server does not answer.';

const parts: { readonly load: () => Promise<unknown> }[] = [];
/** What is being loaded since it is shown. */
const coming = new Set<Promise<unknown>>();

/** What comes later, loaded once, and again after it could not be. */
function deferred<What>(load: () => Promise<What>): Deferred<What> {
  let loaded: What | undefined;
  let loading: Promise<What> | undefined;
  const made: Deferred<What> = {
    loaded: () => loaded,
    load: () => {
      loading ??= load().then(
        (what) => {
          loaded = what;
          return what;
        },
        (error: unknown) => {
          loading = undefined;
          throw error;
        },
      );
      const own = loading;
      coming.add(own);
      own.catch(() => undefined).finally(() => coming.delete(own));
      return own;
    },
  };
  parts.push(made);
  return made;
}

/** A part of the program, by what loads it. */
export const part = <Props,>(load: () => Promise<ComponentType<Props>>): Part<Props> => deferred(load);

/** A module that comes later: what is returned loads it, or rejects. */
export const laterModule = <Module,>(load: () => Promise<Module>): (() => Promise<Module>) => deferred(load).load;

/** Does something with a module that comes later; says so where it can't be loaded. */
export function laterDo<Module>(load: () => Promise<Module>): (act: (module: Module) => void) => void {
  const module = deferred(load);
  return (act) => {
    const ready = module.loaded();
    if (ready) act(ready);
    else module.load().then(act, () => toast.error(NOT_LOADED));
  };
}

/** How long after a page can be used the rest of the program comes. */
const CALM_MILLISECONDS = 800;

/** Does something once the page has been calm for a moment, so that what it loads keeps no one waiting. What is returned calls it off. */
export function whenCalm(act: () => void): () => void {
  const timer = window.setTimeout(act, CALM_MILLISECONDS);
  return () => clearTimeout(timer);
}

/** Loads every part there is, one after another, once the page is calm; what fails is loaded when it is shown. What is returned calls that off. */
export function loadAllParts(onCalm: () => void = () => undefined): () => void {
  let timer = 0;
  let isCalledOff = false;
  const loadNext = async () => {
    // What is shown comes first, however slow the way is.
    if (coming.size > 0) {
      await Promise.allSettled([...coming]);
      if (!isCalledOff) timer = window.setTimeout(loadNext, CALM_MILLISECONDS);
      return;
    }
    onCalm();
    for (const { load } of parts) await load().catch(() => undefined);
  };
  timer = window.setTimeout(loadNext, CALM_MILLISECONDS);
  return () => {
    isCalledOff = true;
    clearTimeout(timer);
  };
}

const AGAIN_MILLISECONDS = 5000;

/** Shows a part with its props once it is loaded, and says when it can't be; a window that nobody may have asked for tries again quietly. */
export function Later<Props extends object>({ of, props, isWindow = false }: { of: Part<Props>; props: Props; isWindow?: boolean }) {
  const [Shown, setShown] = useState<ComponentType<Props> | undefined>(() => of.loaded());
  const [hasFailed, setFailed] = useState(false);
  useEffect(() => {
    if (Shown || hasFailed) return;
    let current = true;
    of.load().then(
      (component) => current && setShown(() => component),
      () => current && setFailed(true),
    );
    return () => {
      current = false;
    };
  }, [of, Shown, hasFailed]);
  useEffect(() => {
    if (!hasFailed || !isWindow) return;
    const timer = setTimeout(() => setFailed(false), AGAIN_MILLISECONDS);
    return () => clearTimeout(timer);
  }, [hasFailed, isWindow]);
  if (Shown) return <Shown {...props} />;
  if (!hasFailed || isWindow) return null;
  return (
    <p role="alert" className="flex items-center gap-3 p-4">
      {NOT_LOADED}
      <Button onClick={() => setFailed(false)}>Try again</Button>
    </p>
  );
}
