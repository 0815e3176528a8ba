import "./do/early";
import { QueryClientProvider } from "@tanstack/react-query";
import { lazy, StrictMode, Suspense } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter, Navigate, Route, Routes } from "react-router";
import { queries } from "./service/queries";
import { Entry } from "./shell/Entry";
import { JobPage } from "./shell/JobFrame";
import { Newer } from "./shell/Newer";
import { SettingsProvider } from "./shell/settings";
import "./styles.css";

const Day = lazy(() => import("./day/Day"));
const AnyDay = lazy(() => import("./day/AnyDay"));
const Jobs = lazy(() => import("./jobs/Jobs"));
const Parts = lazy(() => import("./catalogue/Parts"));
const Quick = lazy(() => import("./jobs/Quick"));
const SettingsPage = lazy(() => import("./settings/SettingsPage"));

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
        <Route path="/jobs/:jobId/:station/:face?" element={<JobPage />} />
        <Route path="*" element={<Navigate to="/" replace />} />
      </Routes>
    </Suspense>
  );
}

createRoot(document.getElementById("root")!).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <SettingsProvider>
        <Newer />
        <BrowserRouter>
          <Pages />
        </BrowserRouter>
        <Entry />
      </SettingsProvider>
    </QueryClientProvider>
  </StrictMode>,
);
