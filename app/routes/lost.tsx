import { data } from 'react-router';
import { RouteTrouble } from '../components/RouteTrouble';
import type { Route } from './+types/lost';

export function loader() {
  throw data('The address may be mistyped, or what it named is no longer here.', { status: 404 });
}

export default function Lost() {
  return null;
}

export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  return <RouteTrouble error={error} />;
}
