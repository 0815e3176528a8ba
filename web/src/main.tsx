import "./do/early";
import { QueryClientProvider } from "@tanstack/react-query";
import { lazy, StrictMode, Suspense } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter, Navigate, Route, Routes } from "react-router";
import { Region } from "./parts/Region";
import { queries } from "./service/queries";
import { useTheme } from "./service/settings";
import { Entry } from "./shell/Entry";
import { JobPage, type JobPages } from "./shell/JobPage";
import { Newer } from "./shell/Newer";
import "./styles.css";

const Day = lazy(() => import("./day/Day"));
const AnyDay = lazy(() => import("./day/AnyDay"));
const Jobs = lazy(() => import("./jobs/Jobs"));
const Parts = lazy(() => import("./catalogue/Parts"));
const Quick = lazy(() => import("./jobs/Quick"));
const SettingsPage = lazy(() => import("./settings/SettingsPage"));

/** The frame of a job knows no station: it is handed their pages. */
const JOB: JobPages = {
  plans: {
    site: lazy(() => import("./stations/site/Plan")),
    sky: lazy(() => import("./stations/sky/Plan")),
    aim: lazy(() => import("./stations/aim/Plan")),
    mast: lazy(() => import("./stations/mast/Plan")),
    earth: lazy(() => import("./stations/earth/Plan")),
    coax: lazy(() => import("./stations/coax/Plan")),
    readings: lazy(() => import("./stations/readings/Plan")),
    handover: lazy(() => import("./stations/handover/Plan")),
  },
  tasks: lazy(() => import("./do/DoFace")),
};

/** Each address and its page. */
function Pages() {
  return (
    <Suspense>
      <Routes>
        <Route path="/" element={<Jobs />} />
        <Route path="/parts" element={<Parts />} />
        <Route path="/day" element={<AnyDay />} />
        <Route path="/day/:date" element={<Day />} />
        <Route path="/quick" element={<Quick />} />
        <Route path="/settings" element={<SettingsPage />} />
        <Route path="/jobs/:jobId" element={<Navigate to="site" replace />} />
        <Route path="/jobs/:jobId/:station/:face?" element={<JobPage {...JOB} />} />
        <Route path="*" element={<Navigate to="/" replace />} />
      </Routes>
    </Suspense>
  );
}

function App() {
  useTheme();
  return (
    <QueryClientProvider client={queries}>
      <Newer />
      <BrowserRouter>
        <Region name="This page">
          <Pages />
        </Region>
      </BrowserRouter>
      <Entry />
    </QueryClientProvider>
  );
}

createRoot(document.getElementById("root")!).render(
  <StrictMode>
    <App />
  </StrictMode>,
);
