import MenuIcon from '@mui/icons-material/Menu';
import Divider from '@mui/material/Divider';
import IconButton from '@mui/material/IconButton';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import Tooltip from '@mui/material/Tooltip';
import { useState } from 'react';
import { Link } from 'react-router';

const PAGES = [
  ['/', 'Riders'],
  ['/protocols', 'Protocols'],
  ['/parts', 'Parts'],
  ['/practice', 'Practice'],
  ['/backup', 'Backup'],
  ['/trash', 'Trash'],
  ['/settings', 'Settings'],
] as const;

/** The pages about more than one visit, from every page. */
export function StudioMenu({ dark, onTheme }: { dark: boolean; onTheme: () => void }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const close = (): void => setAnchor(null);
  return (
    <>
      <Tooltip title="Studio">
        <IconButton
          aria-label="Studio"
          aria-haspopup="menu"
          aria-expanded={anchor !== null}
          onClick={(e) => setAnchor(e.currentTarget)}
        >
          <MenuIcon />
        </IconButton>
      </Tooltip>
      {anchor && (
        <Menu open anchorEl={anchor} onClose={close}>
          {PAGES.map(([to, name]) => (
            <MenuItem key={to} component={Link} to={to} onClick={close} sx={{ minHeight: 44, minWidth: 160 }}>
              {name}
            </MenuItem>
          ))}
          <Divider />
          <MenuItem
            sx={{ minHeight: 44 }}
            onClick={() => {
              close();
              onTheme();
            }}
          >
            {dark ? 'Light theme' : 'Dark theme'}
          </MenuItem>
        </Menu>
      )}
    </>
  );
}
