import { data } from 'react-router';
import { RouteTrouble } from '../../ui/RouteTrouble';
import type { Route } from './+types/lost';

const lost = () => data('The address may be mistyped, or what it named is no longer here.', { status: 404 });

export function loader() {
  throw lost();
}

/** The same without asking the server, which may be out of reach. */
export function clientLoader() {
  throw lost();
}

export default function Lost() {
  return null;
}

export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  return <RouteTrouble error={error} />;
}
