import "./do/early";
import { QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter, Navigate, Route, Routes } from "react-router";
import { loaded } from "./parts/loaded";
import { Region } from "./parts/Region";
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

/** Each address and its page. */
function Pages() {
  return (
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
