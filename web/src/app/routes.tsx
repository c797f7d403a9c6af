import { createBrowserRouter, Navigate } from "react-router";
import { SignInPage } from "@/features/session/SignInPage";
import { PageFault } from "./PageFault";

// Pages come when they are asked for: the sign-in page needs none of them.
const pages = {
  shell: async () => ({ Component: (await import("./Shell")).Shell }),
  daySheet: async () => ({ Component: (await import("@/features/cases/DaySheetPage")).DaySheetPage }),
  newCase: async () => ({ Component: (await import("@/features/cases/NewCasePage")).NewCasePage }),
  design: async () => ({ Component: (await import("@/features/design/DesignPage")).DesignPage }),
  chair: async () => ({ Component: (await import("@/features/chair/ChairPage")).ChairPage }),
  run: async () => ({ Component: (await import("@/features/chair/RunPage")).RunPage }),
  hands: async () => ({ Component: (await import("@/features/hands/HandsPage")).HandsPage }),
  compare: async () => ({ Component: (await import("@/features/compare/ComparePage")).ComparePage }),
  schools: async () => ({ Component: (await import("@/features/schools/SchoolsPage")).SchoolsPage }),
  reading: async () => ({
    Component: (await import("@/features/schools/SchoolReadingPage")).SchoolReadingPage,
  }),
  rules: async () => ({ Component: (await import("@/features/schools/HouseRulesPage")).HouseRulesPage }),
  kit: async () => ({ Component: (await import("@/features/kit/KitPage")).KitPage }),
  materials: async () => ({
    Component: (await import("@/features/materials/MaterialsPage")).MaterialsPage,
  }),
  study: async () => ({ Component: (await import("@/features/study/StudyPage")).StudyPage }),
};

export const router = createBrowserRouter([
  { path: "/sign-in", element: <SignInPage />, errorElement: <PageFault /> },
  {
    lazy: pages.shell,
    errorElement: <PageFault />,
    hydrateFallbackElement: <p className="p-10 text-soft">One moment…</p>,
    children: [
      { path: "/", element: <Navigate to="/cases" replace /> },
      { path: "/cases", lazy: pages.daySheet },
      { path: "/cases/new", lazy: pages.newCase },
      { path: "/cases/:id", lazy: pages.design },
      { path: "/cases/:id/chair", lazy: pages.chair },
      { path: "/cases/:id/chair/:run", lazy: pages.run },
      { path: "/cases/:id/hands", lazy: pages.hands },
      { path: "/cases/:id/compare", lazy: pages.compare },
      { path: "/cases/:id/revisions/:number", lazy: pages.design },
      { path: "/schools", lazy: pages.schools },
      { path: "/schools/:id", lazy: pages.rules },
      { path: "/schools/:id/figures", lazy: pages.reading },
      { path: "/kit", lazy: pages.kit },
      { path: "/materials", lazy: pages.materials },
      { path: "/study", element: <Navigate to="/study/46" replace /> },
      { path: "/study/:tooth", lazy: pages.study },
      { path: "*", element: <PageFault missing /> },
    ],
  },
]);
