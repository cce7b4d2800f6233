import { createContext, type ReactNode, useContext } from "react";

export type Right = "look" | "edit" | "release";
/** What the person signed in may do; null where everybody may all. */
const Context = createContext<ReadonlySet<Right> | null>(null);

/** Says what may be done in what it holds. */
export function Rights({ rights, children }: { rights: readonly Right[]; children: ReactNode }) {
  return <Context.Provider value={new Set(rights)}>{children}</Context.Provider>;
}

/** What it holds only looks, or changes nothing but one's own: whoever sees it may use it. */
export function ForAll({ children }: { children: ReactNode }) {
  return <Context.Provider value={null}>{children}</Context.Provider>;
}

/** Whether something may be done here. Controls ask this, so that no view shows a box that takes nothing. */
export function useMay(right: Right): boolean {
  const rights = useContext(Context);
  return rights === null || rights.has(right);
}

/** What is there only for those who may. */
export function Only({ right = "edit", children }: { right?: Right; children: ReactNode }) {
  return useMay(right) ? children : null;
}
