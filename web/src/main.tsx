import { QueryClientProvider } from "@tanstack/react-query";
import { lazy, StrictMode, Suspense } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, Navigate, RouterProvider } from "react-router";
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

const router = createBrowserRouter([
  {
    path: "/",
    element: (
      <Suspense>
        <Jobs />
      </Suspense>
    ),
  },
  {
    path: "/parts",
    element: (
      <Suspense>
        <Parts />
      </Suspense>
    ),
  },
  {
    path: "/day",
    element: (
      <Suspense>
        <AnyDay />
      </Suspense>
    ),
  },
  {
    path: "/day/:date",
    element: (
      <Suspense>
        <Day />
      </Suspense>
    ),
  },
  {
    path: "/quick",
    element: (
      <Suspense>
        <Quick />
      </Suspense>
    ),
  },
  {
    path: "/settings",
    element: (
      <Suspense>
        <SettingsPage />
      </Suspense>
    ),
  },
  { path: "/jobs/:jobId", element: <Navigate to="site" replace /> },
  { path: "/jobs/:jobId/:station/:face?", element: <JobPage /> },
  { path: "*", element: <Navigate to="/" replace /> },
]);

createRoot(document.getElementById("root")!).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <SettingsProvider>
        <Newer />
        <RouterProvider router={router} />
        <Entry />
      </SettingsProvider>
    </QueryClientProvider>
  </StrictMode>,
);
