import { isRouteErrorResponse } from 'react-router';

/**
 * What a page shows when it can't go on: what happened, that nothing is lost, and ways on. Drawn without the component library,
 * so that it stands even where that is what failed.
 */
export function RouteTrouble({ error, bare = false }: { error: unknown; bare?: boolean }) {
  const trashed = isRouteErrorResponse(error) && error.status === 410;
  const lost = isRouteErrorResponse(error) && error.status === 404;
  const message = isRouteErrorResponse(error)
    ? String(error.data ?? error.statusText)
    : error instanceof Error
      ? error.message
      : 'Something failed without saying what.';
  return (
    <main
      style={{ maxWidth: 640, margin: bare ? '12vh auto' : '6vh auto', padding: 24, lineHeight: 1.5 }}
      role="alert"
    >
      <h1 style={{ fontSize: '1.5rem' }}>
        {lost ? 'There is nothing at this address' : 'Something went wrong on this page'}
      </h1>
      <p>{message}</p>
      <p>What you have entered and filmed is kept on this device; this page has changed nothing in it.</p>
      <p style={{ display: 'flex', gap: 24 }}>
        <a href="/">All riders</a>
        {trashed && <a href="/trash">Go to the trash</a>}
        {!lost && (
          <a href="" onClick={() => location.reload()}>
            Try this page again
          </a>
        )}
      </p>
    </main>
  );
}
