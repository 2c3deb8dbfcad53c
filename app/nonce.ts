import { createContext } from 'react';

/** The one-time word that the server's content security policy lets scripts run by. */
export const NonceContext = createContext<string | undefined>(undefined);
