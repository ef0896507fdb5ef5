import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { lazy, type ReactNode } from "react";
import { BrowserRouter, Link, Navigate, Route, Routes, useLocation } from "react-router";
import { ProofProvider } from "../accounts/proof";
import { Trouble } from "../api/client";
import { KeysProvider } from "../ui/keys";
import { Later } from "../ui/Later";
import { Look } from "../ui/Look";
import { NoticeProvider } from "../ui/notices";
import { Nothing } from "../ui/states";
import { SAY } from "../ui/wording";
import { SessionProvider } from "./SessionProvider";
import { Shell } from "./Shell";

const ArrivalsPage = lazy(() => import("../arrivals/ArrivalsPage"));
const DrivePage = lazy(() => import("../drive/DrivePage"));
const DocumentPage = lazy(() => import("../document/DocumentPage"));
const ManifestPage = lazy(() => import("../manifest/ManifestPage"));
const ManifestList = lazy(() => import("../manifest/ManifestList"));
const NewManifest = lazy(() => import("../manifest/NewManifest"));
const PlanPage = lazy(() => import("../plan/PlanPage"));
const RulesPage = lazy(() => import("../rules/RulesPage"));
const RunsPage = lazy(() => import("../rules/RunsPage"));
const PartiesPage = lazy(() => import("../parties/PartiesPage"));
const DiscardsPage = lazy(() => import("../discards/DiscardsPage"));
const TagsPage = lazy(() => import("../tags/TagsPage"));
const LatelyPage = lazy(() => import("../lately/LatelyPage"));
const ReadersPage = lazy(() => import("../access/ReadersPage"));
const SharedPage = lazy(() => import("../shared/SharedPage"));
const OfficePage = lazy(() => import("../office/OfficePage"));
const MyselfPage = lazy(() => import("../me/MyselfPage"));
const BeginPage = lazy(() => import("../setup/BeginPage"));
const SetUpPage = lazy(() => import("../setup/SetUpPage"));
const WelcomePage = lazy(() => import("../setup/WelcomePage"));
const FindPage = lazy(() => import("../find/FindPage"));

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 5_000,
      refetchOnWindowFocus: true,
      // what is refused stays refused; only a lost connection is tried again
      retry: (failures, error) => !(error instanceof Trouble && error.status >= 400) && failures < 3,
    },
  },
});

export function App(): ReactNode {
  return (
    <QueryClientProvider client={queries}>
      <Look>
        {/* As a transition the page left would take the next keys: a new folder made in it, a document discarded there. */}
        <BrowserRouter useTransitions={false}>
          <NoticeProvider>
            <Routes>
              {/* before anybody can log in */}
              <Route path="set-up" element={<Lazy page={<SetUpPage />} />} />
              <Route path="welcome" element={<Lazy page={<WelcomePage />} />} />
              <Route path="*" element={<Inside />} />
            </Routes>
          </NoticeProvider>
        </BrowserRouter>
      </Look>
    </QueryClientProvider>
  );
}

/** The screens, for whoever is logged in. */
function Inside(): ReactNode {
  return (
    <SessionProvider>
      <ProofProvider>
        <KeysProvider>
          <Routes>
            <Route path="begin" element={<Lazy page={<BeginPage />} />} />
            <Route element={<Shell />}>
              <Route index element={<Navigate to="/arrivals" replace />} />
              <Route path="arrivals/:arrival?" element={<Lazy page={<ArrivalsPage />} />} />
              <Route path="drive/:folder?" element={<Lazy page={<DrivePage />} />} />
              <Route path="documents/:document" element={<Lazy page={<DocumentPage />} />} />
              <Route path="manifests" element={<Lazy page={<ManifestList />} />} />
              <Route path="manifests/new" element={<Lazy page={<NewManifest />} />} />
              <Route path="manifests/:manifest" element={<Lazy page={<ManifestPage />} />} />
              <Route path="plan/:area?" element={<Lazy page={<PlanPage />} />} />
              <Route path="plan/:area/rules" element={<Lazy page={<RulesPage />} />} />
              <Route path="plan/:area/runs" element={<Lazy page={<RunsPage />} />} />
              <Route path="parties/:party?" element={<Lazy page={<PartiesPage />} />} />
              <Route path="discards" element={<Lazy page={<DiscardsPage />} />} />
              <Route path="tags" element={<Lazy page={<TagsPage />} />} />
              <Route path="lately" element={<Lazy page={<LatelyPage />} />} />
              <Route path="find" element={<Lazy page={<FindPage />} />} />
              <Route path="readers/folder/:folder" element={<Lazy page={<ReadersPage />} />} />
              <Route path="readers/document/:document" element={<Lazy page={<ReadersPage />} />} />
              <Route path="shared" element={<Lazy page={<SharedPage />} />} />
              <Route path="office/:panel?" element={<Lazy page={<OfficePage />} />} />
              <Route path="me" element={<Lazy page={<MyselfPage />} />} />
              <Route path="*" element={<Nowhere />} />
            </Route>
          </Routes>
        </KeysProvider>
      </ProofProvider>
    </SessionProvider>
  );
}

function Lazy(props: { page: ReactNode }): ReactNode {
  // another screen is tried by itself
  const screen = useLocation().pathname.split("/")[1];
  return <Later key={screen}>{props.page}</Later>;
}

function Nowhere(): ReactNode {
  return (
    <main>
      <Nothing title="There is no such page" action={<Link to="/arrivals">{SAY.goToArrivals}</Link>}>
        The address leads nowhere.
      </Nothing>
    </main>
  );
}
