import type { Difference, Take } from '../../api/contract';
import { PlainButton } from '../../shared/ui/PlainButton';

interface Props {
  takes: readonly Take[];
  table: readonly Difference[];
  /** One transition of a take, or one undercurrent. */
  adopt: (take: Take, difference: Difference) => void;
}

/** What differs, a line for each transition and each undercurrent; each is had from a take by one press. */
export function Differences({ takes, table, adopt }: Props) {
  if (!takes.length) return null;
  if (!table.length) return <p className="quiet">No difference: all takes have the current timing.</p>;
  return (
    <div className="takes-table">
      <table>
        <thead>
          <tr>
            <th scope="col">Differs in</th>
            <th scope="col">Current</th>
            {takes.map((take) => (
              <th key={take.number} scope="col">
                {take.name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {table.map((difference) => (
            <tr key={`${difference.kind} ${difference.id}`}>
              <th scope="row">{difference.name}</th>
              {difference.cells.map((cell, i) => (
                <Cell
                  key={i}
                  text={cell}
                  differs={i > 0 && cell !== difference.cells[0]}
                  take={takes[i - 1]}
                  adopt={(take) => adopt(take, difference)}
                  name={difference.name}
                />
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

interface CellProps {
  text: string;
  differs: boolean;
  /** None of what stands. */
  take: Take | undefined;
  name: string;
  adopt: (take: Take) => void;
}

function Cell({ text, differs, take, name, adopt }: CellProps) {
  return (
    <td className={`mono${differs ? ' other' : ''}`}>
      {text}
      {take && differs && text !== '–' && (
        <PlainButton
          aria-label={`Adopt ${name} of ${take.name}`}
          title="Only this row of the take"
          onClick={() => adopt(take)}
        >
          adopt
        </PlainButton>
      )}
    </td>
  );
}
