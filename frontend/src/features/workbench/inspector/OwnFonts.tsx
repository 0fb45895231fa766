import { Flex } from 'antd';
import { Fold } from '../../../shared/ui/Fold';
import { PlainButton } from '../../../shared/ui/PlainButton';
import { tried } from '../actions';
import { useBench } from '../bench';
import { dropFont, fontsOf, namesOf, textsIn } from '../edits';
import { FONT_FILES, takeFont } from '../fonts';
import { FileButton } from './FileButton';
import { weightsOf } from './FontField';

/** The families that the piece brings. */
export function OwnFonts() {
  const piece = useBench((b) => b.document);
  const facts = useBench((b) => b.fonts);
  const covered = useBench((b) => b.covered);
  const own = fontsOf(piece);
  return (
    <Fold title="Fonts" open={own.length + covered.length > 0}>
      <p className="quiet">
        A font comes as TTF, OTF or WOFF2 and goes along wherever the piece goes. Each weight may be a file of its own:
        files of one family are found by its name.
      </p>
      <Flex vertical gap={6} component="ul" className="own-fonts">
        {own.map(({ family, files }) => {
          const texts = textsIn(piece, family);
          const told = facts[family];
          const bytes = files.reduce((sum, source) => sum + source.length * 0.75, 0);
          return (
            <li key={family}>
              <Flex justify="space-between" align="baseline" gap={8}>
                <span className="ellipsis" style={{ fontFamily: JSON.stringify(family), fontSize: 14 }} title={family}>
                  {family}
                </span>
                <PlainButton
                  disabled={texts.length > 0}
                  aria-label={`Remove ${family}`}
                  title={texts.length ? `${namesOf(piece, texts)} set in it: choose another family there first` : ''}
                  onClick={() => void tried((now) => dropFont(now, family))}
                >
                  remove
                </PlainButton>
              </Flex>
              <small className="quiet">
                {[
                  told && weightsOf(told),
                  told?.axes.length && `axes ${told.axes.map(({ name }) => name).join(', ')}`,
                  `${Math.ceil(bytes / 1000)} kB`,
                ]
                  .filter(Boolean)
                  .join(' · ')}
              </small>
            </li>
          );
        })}
      </Flex>
      {covered.map(({ family, original }) => (
        <p key={`${family} ${original}`} className="warning">
          {original} brings another {family} than the one that is shown here.
        </p>
      ))}
      <FileButton
        label="Font file for the piece"
        accept={FONT_FILES}
        take={async (file) => void (await takeFont(file, []))}
      >
        Bring in a font…
      </FileButton>
    </Fold>
  );
}
