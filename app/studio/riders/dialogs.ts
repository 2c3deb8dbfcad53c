import { lazy } from 'react';

const newRider = () => import('./NewRider');
const setUp = () => import('./SetUp');

export const NewRider = lazy(() => newRider().then((m) => ({ default: m.NewRider })));
export const SetUp = lazy(() => setUp().then((m) => ({ default: m.SetUp })));

/** The list is drawn without the code of its dialogs; then that comes too, before anybody asks for it. */
export const fetchDialogs = (): void =>
  void Promise.all([newRider(), setUp()]).catch(() => {
    // Asked for again when one is opened; what keeps it away is said there.
  });
