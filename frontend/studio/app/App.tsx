import { QueryClient, QueryClientProvider, useQuery, useQueryClient } from "@tanstack/react-query";
import { Suspense, useEffect, useState } from "react";
import { createBrowserRouter, Navigate, type RouteObject, RouterProvider } from "react-router";
import { Toaster } from "sonner";
import { Refused, type Schemas, session } from "../api/client";
import { ask } from "../api/queries";
import { ConsideringProvider } from "../considering/Considering";
import { SavingProvider } from "../state/saving";
import { Dialog, TipProvider } from "../ui/basics";
import { type Right, Rights } from "../ui/rights";
import { Leaving } from "./Leaving";
import { Shell } from "./Shell";
import { SignIn } from "./SignIn";
import { STAGES, type Stage } from "./stages";

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 15_000,
      retry: (count, error) => count < 2 && !(error instanceof Refused && error.status >= 400 && error.status < 500),
    },
  },
});

const first = (stage: Stage) => <Navigate to={`/${stage.code}/${stage.views[0]?.path}`} replace />;
const views: RouteObject[] = [
  ...STAGES.flatMap((stage) => [
    { path: stage.code, element: first(stage) },
    ...stage.views.map(({ path, opens, Screen }) => ({
      path: `${stage.code}/${path}${opens ? "/:key?" : ""}`,
      element: <Screen />,
    })),
  ]),
  { path: "*", element: <Navigate to="/define" replace /> },
];

function Studio({ me }: { me: Schemas["SessionOut"] }) {
  const [router] = useState(() =>
    createBrowserRouter([{ element: <Framed me={me} />, children: views }], { basename: "/studio" }),
  );
  return <RouterProvider router={router} />;
}

function Framed({ me }: { me: Schemas["SessionOut"] }) {
  return (
    <Rights rights={me.rights as Right[]}>
      <SavingProvider>
        <ConsideringProvider>
          <Suspense fallback={null}>
            <Shell me={me} />
          </Suspense>
          <Leaving />
        </ConsideringProvider>
      </SavingProvider>
    </Rights>
  );
}

/** Asks who is signed in; over a session that has ended it asks again without losing the page. */
function Door() {
  const client = useQueryClient();
  const { data: me } = useQuery(ask.session());
  const [again, setAgain] = useState<(() => void) | null>(null);
  if (me) session.csrf = me.csrf;
  useEffect(() => {
    let waiting: Promise<void> | null = null;
    session.onSignedOut = () => {
      waiting ??= new Promise<void>((resolve) => {
        setAgain(() => () => {
          waiting = null;
          setAgain(null);
          resolve();
        });
      });
      return waiting;
    };
    return () => {
      session.onSignedOut = null;
    };
  }, []);
  if (!me) return null;
  if (!me.name) return <SignIn onDone={(signedIn) => client.setQueryData(ask.session().queryKey, signedIn)} />;
  return (
    <>
      <Studio me={me} />
      <Dialog open={again !== null} fixed onClose={() => undefined} title="Sign in again">
        <SignIn
          again
          onDone={(signedIn) => {
            client.setQueryData(ask.session().queryKey, signedIn);
            again?.();
          }}
        />
      </Dialog>
    </>
  );
}

export function App() {
  return (
    <QueryClientProvider client={queries}>
      <TipProvider delayDuration={350}>
        <Door />
        <Toaster position="bottom-right" toastOptions={{ className: "!font-sans !text-[13px]", closeButton: true }} />
      </TipProvider>
    </QueryClientProvider>
  );
}
