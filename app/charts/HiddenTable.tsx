import { styled } from '@mui/material/styles';
import { memo } from 'react';
import { UNSEEN } from '../ui/unseen';

const Unseen = styled('table')(UNSEEN);

/** A drawing in figures, for those who hear the page: the first column names its row. */
export const HiddenTable = memo(function HiddenTable({
  caption,
  columns,
  rows,
}: {
  caption: string;
  columns: readonly string[];
  rows: readonly (readonly (string | number)[])[];
}) {
  return (
    <Unseen>
      <caption>{caption}</caption>
      <thead>
        <tr>
          {columns.map((c, k) => (
            <th scope="col" key={`${k} ${c}`}>
              {c}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map(([name, ...cells], i) => (
          <tr key={i}>
            <th scope="row">{name}</th>
            {cells.map((c, k) => (
              <td key={k}>{c}</td>
            ))}
          </tr>
        ))}
      </tbody>
    </Unseen>
  );
});
