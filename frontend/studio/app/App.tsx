import { QueryClient, QueryClientProvider, useQuery, useQueryClient } from "@tanstack/react-query";
import { lazy, Suspense, useEffect, useState } from "react";
import { createBrowserRouter, Navigate, type RouteObject, RouterProvider } from "react-router";
import { Toaster } from "sonner";
import { Refused, type Schemas, session } from "../api/client";
import { ask } from "../api/queries";
import { SavingProvider } from "../state/saving";
import { Dialog, TipProvider } from "../ui/basics";
import { Shell } from "./Shell";
import { SignIn } from "./SignIn";

const FieldsView = lazy(() => import("../features/define/fields/FieldsView"));
const ListsView = lazy(() => import("../features/define/lists/ListsView"));
const CopiesView = lazy(() => import("../features/define/copies/CopiesView"));
const RecordTypesView = lazy(() => import("../features/define/record_types/RecordTypesView"));
const RecordsView = lazy(() => import("../features/fill/records/RecordsView"));
const HousekeepingView = lazy(() => import("../features/define/housekeeping/HousekeepingView"));
const FilesView = lazy(() => import("../features/define/bundles/FilesView"));
const SetsView = lazy(() => import("../features/compose/sets/SetsView"));
const OptionSetsView = lazy(() => import("../features/compose/options/OptionSetsView"));
const CollectionsView = lazy(() => import("../features/compose/collections/CollectionsView"));
const SheetView = lazy(() => import("../features/compose/sheet/SheetView"));
const TypesView = lazy(() => import("../features/compose/types/TypesView"));
const ProductsView = lazy(() => import("../features/fill/products/ProductsView"));
const WeaveView = lazy(() => import("../features/present/weave/WeaveView"));
const LayoutsView = lazy(() => import("../features/present/layouts/LayoutsView"));
const ChangesView = lazy(() => import("../features/release/ChangesView"));
const ChecksView = lazy(() => import("../features/release/ChecksView"));
const SystemsView = lazy(() => import("../features/release/SystemsView"));
const JobsView = lazy(() => import("../features/release/JobsView"));
const HistoryView = lazy(() => import("../features/release/HistoryView"));

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 15_000,
      retry: (count, error) => count < 2 && !(error instanceof Refused && error.status >= 400 && error.status < 500),
    },
  },
});

const views: RouteObject[] = [
  { index: true, element: <Navigate to="/define/fields" replace /> },
  { path: "define", element: <Navigate to="/define/fields" replace /> },
  { path: "define/fields/:key?", element: <FieldsView /> },
  { path: "define/lists/:key?", element: <ListsView /> },
  { path: "define/records/:key?", element: <RecordTypesView /> },
  { path: "define/copies/:key?", element: <CopiesView /> },
  { path: "define/housekeeping", element: <HousekeepingView /> },
  { path: "define/files", element: <FilesView /> },
  { path: "compose", element: <Navigate to="/compose/types" replace /> },
  { path: "compose/types/:key?", element: <TypesView /> },
  { path: "compose/sets/:key?", element: <SetsView /> },
  { path: "compose/options/:key?", element: <OptionSetsView /> },
  { path: "compose/sheet", element: <SheetView /> },
  { path: "compose/collections/:key?", element: <CollectionsView /> },
  { path: "fill", element: <Navigate to="/fill/products" replace /> },
  { path: "fill/products/:key?", element: <ProductsView /> },
  { path: "fill/records/:key?", element: <RecordsView /> },
  { path: "present", element: <Navigate to="/present/weave" replace /> },
  { path: "present/weave", element: <WeaveView /> },
  { path: "present/layouts/:key?", element: <LayoutsView /> },
  { path: "release", element: <Navigate to="/release/changes" replace /> },
  { path: "release/changes", element: <ChangesView /> },
  { path: "release/checks", element: <ChecksView /> },
  { path: "release/history", element: <HistoryView /> },
  { path: "release/systems", element: <SystemsView /> },
  { path: "release/jobs", element: <JobsView /> },
  { path: "*", element: <Navigate to="/define/fields" replace /> },
];

function Studio({ me }: { me: Schemas["SessionOut"] }) {
  const [router] = useState(() =>
    createBrowserRouter([{ element: <Framed me={me} />, children: views }], { basename: "/studio" }),
  );
  return <RouterProvider router={router} />;
}

function Framed({ me }: { me: Schemas["SessionOut"] }) {
  return (
    <SavingProvider>
      <Suspense fallback={null}>
        <Shell me={me} />
      </Suspense>
    </SavingProvider>
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
        <Toaster position="bottom-left" toastOptions={{ className: "!font-sans !text-[13px]", closeButton: true }} />
      </TipProvider>
    </QueryClientProvider>
  );
}
