import "./do/early";
import { QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { Redirect, Route, Router, Switch } from "wouter";
import { go } from "./parts/go";
import { loaded } from "./parts/loaded";
import { Region } from "./parts/Region";
import { stepsFirst } from "./service/early";
import { queries } from "./service/queries";
import { useTheme } from "./service/settings";
import { Entry } from "./shell/Entry";
import { JobPage, type JobPages } from "./shell/JobPage";
import { Newer } from "./shell/Newer";
import "./styles.css";

const Day = loaded(() => import("./day/Day"));
const AnyDay = loaded(() => import("./day/AnyDay"));
const Jobs = loaded(() => import("./jobs/Jobs"));
const Parts = loaded(() => import("./catalogue/Parts"));
const Quick = loaded(() => import("./jobs/Quick"));
const SettingsPage = loaded(() => import("./settings/SettingsPage"));

/** The frame of a job knows no station: it is handed their pages. */
const JOB: JobPages = {
  plans: {
    site: loaded(() => import("./stations/site/Plan")),
    sky: loaded(() => import("./stations/sky/Plan")),
    aim: loaded(() => import("./stations/aim/Plan")),
    mast: loaded(() => import("./stations/mast/Plan")),
    earth: loaded(() => import("./stations/earth/Plan")),
    coax: loaded(() => import("./stations/coax/Plan")),
    readings: loaded(() => import("./stations/readings/Plan")),
    handover: loaded(() => import("./stations/handover/Plan")),
  },
  tasks: loaded(() => import("./do/DoFace")),
};

// The page's code is ready when the steps arrive, so both are drawn in one pass.
if (stepsFirst) void JOB.tasks.load().catch(() => {});

/** Each address and its page. */
function Pages() {
  return (
    <Switch>
      <Route path="/">
        <Jobs />
      </Route>
      <Route path="/parts">
        <Parts />
      </Route>
      <Route path="/day">
        <AnyDay />
      </Route>
      <Route path="/day/:date">
        <Day />
      </Route>
      <Route path="/quick">
        <Quick />
      </Route>
      <Route path="/settings">
        <SettingsPage />
      </Route>
      <Route path="/jobs/:jobId">
        {({ jobId }) => <Redirect to={`/jobs/${jobId}/site`} replace />}
      </Route>
      <Route path="/jobs/:jobId/:station/:face?">
        <JobPage {...JOB} />
      </Route>
      <Route>
        <Redirect to="/" replace />
      </Route>
    </Switch>
  );
}

function App() {
  useTheme();
  return (
    <QueryClientProvider client={queries}>
      <Newer />
      <Router aroundNav={(_, to, how) => go(to, how)}>
        <Region name="This page">
          <Pages />
        </Region>
      </Router>
      <Entry />
    </QueryClientProvider>
  );
}

createRoot(document.getElementById("root")!).render(
  <StrictMode>
    <App />
  </StrictMode>,
);
