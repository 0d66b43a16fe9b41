import type { Routes } from '@angular/router';
import { keepsEdits } from './ui/unsaved-edits';
import { signedIn, signedOut } from './session/auth-guard';

/** The pages in the order of the work. */
export const routes: Routes = [
  {
    path: 'sign-in',
    title: 'Sign in · Vivid Cue',
    canActivate: [signedOut],
    loadComponent: () => import('./session/sign-in').then((m) => m.SignInPage),
  },
  {
    path: 'desk',
    title: 'Desk · Vivid Cue',
    children: [
      { path: '', loadComponent: () => import('./desk/desk-door').then((m) => m.DeskDoor) },
      { path: ':linkId', loadComponent: () => import('./desk/desk-page').then((m) => m.DeskPage) },
    ],
  },
  {
    path: 'listen/:listenerId',
    title: 'Listen · Vivid Cue',
    loadComponent: () => import('./listen/listen-page').then((m) => m.ListenPage),
  },
  {
    // A screen of its own: whoever plays sees nothing that the day would not show.
    path: 'mocks/:mockId/run',
    title: 'Mock day · Vivid Cue',
    canActivate: [signedIn],
    loadComponent: () => import('./mock/mock-run').then((m) => m.MockRun),
  },
  {
    path: '',
    canActivateChild: [signedIn],
    loadComponent: () => import('./frame/frame').then((m) => m.Frame),
    children: [
      { path: '', pathMatch: 'full', redirectTo: 'season' },
      {
        path: 'season',
        title: 'Season · Vivid Cue',
        loadComponent: () => import('./season/season-page').then((m) => m.SeasonPage),
      },
      {
        path: 'students/:studentId',
        canDeactivate: [keepsEdits],
        title: 'Program · Vivid Cue',
        loadComponent: () => import('./student/student-page').then((m) => m.StudentPage),
      },
      {
        path: 'students/:studentId/lesson',
        title: 'Lesson · Vivid Cue',
        loadComponent: () => import('./lesson/lesson-page').then((m) => m.LessonPage),
      },
      {
        path: 'students/:studentId/climb',
        title: 'Climb · Vivid Cue',
        loadComponent: () => import('./plan/plan-page').then((m) => m.PlanPage),
      },
      {
        path: 'students/:studentId/takes',
        title: 'Takes · Vivid Cue',
        loadComponent: () => import('./takes/takes-page').then((m) => m.TakesPage),
      },
      {
        path: 'takes/:takeId',
        title: 'Take · Vivid Cue',
        loadComponent: () => import('./takes/take-page').then((m) => m.TakePage),
      },
      {
        path: 'takes/:takeId/beside/:otherId',
        title: 'Two takes · Vivid Cue',
        loadComponent: () => import('./takes/take-page').then((m) => m.TakePage),
      },
      {
        path: 'mocks',
        title: 'Mock days · Vivid Cue',
        loadComponent: () => import('./mock/mocks-page').then((m) => m.MocksPage),
      },
      {
        path: 'mocks/:mockId',
        title: 'Mock day · Vivid Cue',
        loadComponent: () => import('./mock/mock-page').then((m) => m.MockPage),
      },
      {
        path: 'sheets',
        title: 'Sheets · Vivid Cue',
        loadComponent: () => import('./sheet/sheet-list').then((m) => m.SheetList),
      },
      {
        path: 'sheets/new',
        title: 'New sheet · Vivid Cue',
        loadComponent: () => import('./sheet/sheet-desk').then((m) => m.SheetDesk),
      },
      {
        path: 'sheets/:sheetId',
        title: 'Sheet · Vivid Cue',
        loadComponent: () => import('./sheet/sheet-desk').then((m) => m.SheetDesk),
      },
      {
        path: 'sheets/:sheetId/revisions',
        canDeactivate: [keepsEdits],
        title: 'Revisions · Vivid Cue',
        loadComponent: () => import('./sheet/revisions-page').then((m) => m.RevisionsPage),
      },
      {
        path: 'programs/:programId',
        canDeactivate: [keepsEdits],
        title: 'Program · Vivid Cue',
        loadComponent: () => import('./program/program-page').then((m) => m.ProgramPage),
      },
      {
        path: 'settings',
        canDeactivate: [keepsEdits],
        title: 'Settings · Vivid Cue',
        loadComponent: () => import('./settings/settings-page').then((m) => m.SettingsPage),
      },
      {
        path: 'score/:programPartId',
        data: { isAhead: true },
        canDeactivate: [keepsEdits],
        title: 'Score · Vivid Cue',
        loadComponent: () => import('./score/score-room').then((m) => m.ScoreRoom),
      },
    ],
  },
  {
    path: '**',
    title: 'Not here · Vivid Cue',
    loadComponent: () => import('./ui/not-here').then((m) => m.NotHere),
  },
];
