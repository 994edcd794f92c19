"use client";
/** The whole path in three dimensions, coloured by band, up to the cursor layer. */
import { Canvas, useThree } from "@react-three/fiber";
import { useEffect, useMemo } from "react";
import { BufferAttribute, BufferGeometry, Color, Vector3 } from "three";
import { OrbitControls } from "three/examples/jsm/controls/OrbitControls.js";
import { laysMaterial } from "@/core/gcode/moves";
import type { TrialMoves } from "@/workers/trial-messages";
import { useScheme } from "../frame/scheme";
import type { LogBand } from "../heightlog/column";
import { LayerPicker } from "./layer-picker";
import { toolColours } from "../theme/tool-colours";
import { palettes } from "../theme/tokens";

interface Props {
  moves: TrialMoves | null;
  bands: LogBand[];
  /** The tool of each move, where lines are coloured by it. */
  toolOf?: Uint8Array;
  /** The layer of the moves, where they count others than the heights do. */
  movesLayer?: number;
  layer: number;
  tops: ArrayLike<number>;
  heightPx: number;
  onLayer(layer: number): void;
}

export function PathView(props: Props) {
  const { moves, bands, toolOf, layer, movesLayer = layer, tops, heightPx, onLayer } = props;
  const { scheme } = useScheme();
  const palette = palettes[scheme];
  const lines = useMemo(
    () => (moves ? linesOf(moves, bands, palette.primary, toolOf) : null),
    [moves, bands, palette.primary, toolOf],
  );
  return (
    <div>
      <LayerPicker layer={layer} tops={tops} onLayer={onLayer} says="Up to layer">
        Drag to turn, wheel to come nearer, right button to move.
      </LayerPicker>
      <div
        className="card"
        style={{ height: heightPx - 40, padding: 0, overflow: "hidden" }}
        role="img"
        aria-label={`The path up to layer ${layer + 1}`}
      >
        {lines && (
          <Canvas
            camera={{
              fov: 32,
              near: 1,
              far: 3000,
              up: [0, 0, 1],
              position: [-0.95 * lines.size, -2.2 * lines.size, 1.25 * lines.size],
            }}
            frameloop="demand"
            gl={{ antialias: true, preserveDrawingBuffer: true }}
          >
            <color attach="background" args={[palette.surface]} />
            <Lines lines={lines} until={lines.layerEnds[Math.min(movesLayer, lines.layerEnds.length - 1)] ?? 0} />
            <gridHelper
              args={[Math.ceil(lines.size / 10) * 20, Math.ceil(lines.size / 10) * 2, palette.lineStrong, palette.line]}
              rotation={[Math.PI / 2, 0, 0]}
            />
            <Controls target={[0, 0, lines.heightMm / 2]} />
          </Canvas>
        )}
      </div>
    </div>
  );
}

interface PathLines {
  geometry: BufferGeometry;
  /** How many vertices are drawn when the path ends with a layer. */
  layerEnds: Uint32Array;
  size: number;
  heightMm: number;
}

function linesOf(
  { moves, layerStarts }: TrialMoves,
  bands: LogBand[],
  baseColour: string,
  toolOf?: Uint8Array,
): PathLines {
  const ofTool = toolColours.map((colour) => new Color(colour));
  const { count, x, y, z, kind, layer } = moves;
  const colours: Color[] = [];
  const base = new Color(baseColour);
  for (let i = 0; i + 1 < layerStarts.length; i++) {
    const band = bands.find(({ firstLayer, lastLayer }) => i >= firstLayer && i <= lastLayer);
    colours.push(band ? new Color(band.colour) : base);
  }
  let total = 0;
  let minX = Infinity;
  let maxX = -Infinity;
  let minY = Infinity;
  let maxY = -Infinity;
  for (let i = 1; i < count; i++) {
    if (!laysMaterial(kind[i])) continue;
    total++;
    minX = Math.min(minX, x[i]);
    maxX = Math.max(maxX, x[i]);
    minY = Math.min(minY, y[i]);
    maxY = Math.max(maxY, y[i]);
  }
  const centreX = (minX + maxX) / 2;
  const centreY = (minY + maxY) / 2;
  const positions = new Float32Array(total * 6);
  const shades = new Float32Array(total * 6);
  const layerEnds = new Uint32Array(Math.max(1, layerStarts.length - 1));
  let at = 0;
  let heightMm = 0;
  for (let i = 1; i < count; i++) {
    if (!laysMaterial(kind[i])) continue;
    const shade = toolOf ? ofTool[toolOf[i] % ofTool.length] : (colours[layer[i]] ?? base);
    positions.set([x[i - 1] - centreX, y[i - 1] - centreY, z[i - 1], x[i] - centreX, y[i] - centreY, z[i]], at);
    // Lines along one direction are a little darker, so that faces can be told apart.
    const light = Math.abs(x[i] - x[i - 1]) > Math.abs(y[i] - y[i - 1]) ? 1 : 0.8;
    shades.set(
      [shade.r * light, shade.g * light, shade.b * light, shade.r * light, shade.g * light, shade.b * light],
      at,
    );
    at += 6;
    layerEnds[layer[i]] = at / 3;
    heightMm = z[i];
  }
  const geometry = new BufferGeometry();
  geometry.setAttribute("position", new BufferAttribute(positions, 3));
  geometry.setAttribute("color", new BufferAttribute(shades, 3));
  return { geometry, layerEnds, size: Math.max(maxX - minX, maxY - minY, heightMm), heightMm };
}

function Lines({ lines, until }: { lines: PathLines; until: number }) {
  const invalidate = useThree((state) => state.invalidate);
  useEffect(() => {
    lines.geometry.setDrawRange(0, until);
    invalidate();
  }, [lines, until, invalidate]);
  useEffect(() => () => lines.geometry.dispose(), [lines]);
  return (
    <lineSegments geometry={lines.geometry}>
      <lineBasicMaterial vertexColors />
    </lineSegments>
  );
}

function Controls({ target }: { target: [number, number, number] }) {
  const { camera, gl, invalidate } = useThree();
  const [x, y, z] = target;
  useEffect(() => {
    const controls = new OrbitControls(camera, gl.domElement);
    controls.target.copy(new Vector3(x, y, z));
    controls.addEventListener("change", () => invalidate());
    controls.update();
    invalidate();
    return () => controls.dispose();
  }, [camera, gl, invalidate, x, y, z]);
  return null;
}
