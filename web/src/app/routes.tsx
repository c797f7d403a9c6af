import { createBrowserRouter, Navigate } from "react-router";
import { DaySheetPage } from "@/features/cases/DaySheetPage";
import { NewCasePage } from "@/features/cases/NewCasePage";
import { ComparePage } from "@/features/compare/ComparePage";
import { DesignPage } from "@/features/design/DesignPage";
import { HouseRulesPage } from "@/features/schools/HouseRulesPage";
import { SchoolsPage } from "@/features/schools/SchoolsPage";
import { SignInPage } from "@/features/session/SignInPage";
import { StudyPage } from "@/features/study/StudyPage";
import { PageFault } from "./PageFault";
import { Shell } from "./Shell";

export const router = createBrowserRouter([
  { path: "/sign-in", element: <SignInPage />, errorElement: <PageFault /> },
  {
    element: <Shell />,
    errorElement: <PageFault />,
    children: [
      { path: "/", element: <Navigate to="/cases" replace /> },
      { path: "/cases", element: <DaySheetPage /> },
      { path: "/cases/new", element: <NewCasePage /> },
      { path: "/cases/:id", element: <DesignPage /> },
      { path: "/cases/:id/compare", element: <ComparePage /> },
      { path: "/cases/:id/revisions/:number", element: <DesignPage /> },
      { path: "/schools", element: <SchoolsPage /> },
      { path: "/schools/:id", element: <HouseRulesPage /> },
      { path: "/study", element: <Navigate to="/study/46" replace /> },
      { path: "/study/:tooth", element: <StudyPage /> },
      { path: "*", element: <PageFault missing /> },
    ],
  },
]);
