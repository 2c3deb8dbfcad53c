// The shapes that are drawn over a film, and none of the library's others.
import 'konva/lib/shapes/Arc';
import 'konva/lib/shapes/Circle';
import 'konva/lib/shapes/Line';
import 'konva/lib/shapes/Rect';
import 'konva/lib/shapes/Text';

export { Arc, Circle, Group, Layer, Line, Rect, Stage, Text } from 'react-konva/lib/ReactKonvaCore';
