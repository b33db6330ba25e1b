import type { Asset } from './asset';
import { Shape, type Colour } from './shape';

/**
 * The shed kit: six pieces on a 2 m grid, storeys 3 m high, pivot at the middle of the base.
 * Walls lie along x on a grid line, a corner stands on a grid point, floors and roofs fill a cell,
 * the stair fills two cells and rises to the next storey.
 */
export const KIT_GRID = 2;
export const STOREY = 3;

const SLATE: Colour = [0.4, 0.405, 0.43];
const COPING: Colour = [0.5, 0.5, 0.505];
const TIMBER: Colour = [0.42, 0.33, 0.24];
const SHINGLE: Colour = [0.285, 0.3, 0.34];
/** Half the thickness of a wall, and how far its foot goes under its pivot, so that it stands on uneven ground; metres. */
const T = 0.15;
const FOOT = -0.4;

const piece = (name: string, real: [number, number], tags: string[], collider: Asset['collider'], ...lods: Shape[]): Asset => ({
  name,
  role: 'piece',
  collider,
  real,
  tags: ['shed', ...tags],
  trunk: 0,
  lods: lods.map((s) => [s.done('slate')]),
  textureBytes: 0,
});

const wall = () =>
  piece(
    'wall',
    [2.7, 3.6],
    ['wall'],
    'box',
    new Shape().box([-1, FOOT, -T], [1, STOREY - 0.12, T], SLATE, ['bottom', 'top']).box([-1, STOREY - 0.12, -T - 0.03], [1, STOREY, T + 0.03], COPING),
    new Shape().box([-1, FOOT, -T], [1, STOREY, T], SLATE, ['bottom']),
  );

/** A quoin of long stones laid crosswise where two walls meet. */
function corner(): Asset {
  const shape = new Shape();
  for (let i = 0; i < 6; i++) {
    const [a, b] = i % 2 === 0 ? [0.27, 0.2] : [0.2, 0.27];
    shape.box(
      [-a, i === 0 ? FOOT : i * 0.5, -b],
      [a, (i + 1) * 0.5, b],
      [COPING[0] * (0.86 + (i % 3) * 0.09), COPING[1] * (0.86 + (i % 3) * 0.09), COPING[2] * (0.86 + (i % 3) * 0.09)],
      i === 0 ? ['bottom'] : [],
    );
  }
  return piece('corner', [2.7, 3.6], ['corner'], 'box', shape, new Shape().box([-0.24, FOOT, -0.24], [0.24, STOREY, 0.24], COPING, ['bottom']));
}

/** Clear opening of the door wall, metres. */
export const DOOR = { width: 1.1, height: 2.1 } as const;

function doorWall(): Asset {
  const [w, h] = [DOOR.width / 2, DOOR.height];
  return piece(
    'door wall',
    [2.7, 3.6],
    ['wall', 'door'],
    'mesh',
    new Shape()
      .box([-1, FOOT, -T], [-w, STOREY - 0.12, T], SLATE, ['bottom', 'top'])
      .box([w, FOOT, -T], [1, STOREY - 0.12, T], SLATE, ['bottom', 'top'])
      .box([-w, h + 0.22, -T], [w, STOREY - 0.12, T], SLATE, ['top', 'east', 'west', 'bottom'])
      .box([-w - 0.15, h, -T - 0.02], [w + 0.15, h + 0.22, T + 0.02], TIMBER)
      .box([-1, STOREY - 0.12, -T - 0.03], [1, STOREY, T + 0.03], COPING),
  );
}

const floor = () =>
  piece(
    'floor',
    [0.12, 0.18],
    ['floor'],
    'box',
    new Shape()
      .box([-1, 0, -1], [-0.34, 0.15, 1], TIMBER)
      .box([-0.33, 0, -1], [0.33, 0.15, 1], [TIMBER[0] * 1.12, TIMBER[1] * 1.12, TIMBER[2] * 1.12])
      .box([0.34, 0, -1], [1, 0.15, 1], [TIMBER[0] * 0.92, TIMBER[1] * 0.92, TIMBER[2] * 0.92]),
    new Shape().box([-1, 0, -1], [1, 0.15, 1], TIMBER),
  );

/** Half a pitched roof: 2 m along the ridge, from 0.3 m beyond the wall up to the ridge over the far side of the cell. */
function roof(): Asset {
  const shape = new Shape();
  const [eave, ridge, rise, thick] = [1.3, -1, 1.45, 0.14];
  const at = (k: number): [number, number] => [eave + (ridge - eave) * k, -0.19 + (rise + 0.19) * k];
  // Four courses of slates, each lapping the one below.
  for (let i = 0; i < 4; i++) {
    const [z0, y0] = at(i / 4);
    const [z1, y1] = at((i + 1) / 4 + (i < 3 ? 0.02 : 0));
    const up = i === 0 ? 0 : 0.025;
    const shade = 0.9 + (i % 2) * 0.16;
    const colour: Colour = [SHINGLE[0] * shade, SHINGLE[1] * shade, SHINGLE[2] * shade];
    shape.face(
      [
        [-1, y0 + thick + up, z0],
        [1, y0 + thick + up, z0],
        [1, y1 + thick, z1],
        [-1, y1 + thick, z1],
      ],
      colour,
    );
    shape.face(
      [
        [-1, y0, z0],
        [1, y0, z0],
        [1, y0 + thick + up, z0],
        [-1, y0 + thick + up, z0],
      ],
      colour,
    );
    shape.face(
      [
        [1, y0, z0],
        [1, y1, z1],
        [1, y1 + thick, z1],
        [1, y0 + thick + up, z0],
      ],
      TIMBER,
    );
    shape.face(
      [
        [-1, y1, z1],
        [-1, y0, z0],
        [-1, y0 + thick + up, z0],
        [-1, y1 + thick, z1],
      ],
      TIMBER,
    );
    shape.face(
      [
        [1, y0, z0],
        [-1, y0, z0],
        [-1, y1, z1],
        [1, y1, z1],
      ],
      TIMBER,
    );
  }
  const [z0, y0] = at(0);
  const [z1, y1] = at(1);
  const coarse = new Shape()
    .face(
      [
        [-1, y0 + thick, z0],
        [1, y0 + thick, z0],
        [1, y1 + thick, z1],
        [-1, y1 + thick, z1],
      ],
      SHINGLE,
    )
    .face(
      [
        [1, y0, z0],
        [-1, y0, z0],
        [-1, y1, z1],
        [1, y1, z1],
      ],
      TIMBER,
    )
    .face(
      [
        [-1, y0, z0],
        [1, y0, z0],
        [1, y0 + thick, z0],
        [-1, y0 + thick, z0],
      ],
      SHINGLE,
    );
  return piece('roof', [1.4, 2], ['roof'], 'mesh', shape, coarse);
}

/** Sixteen steps of 0.1875 m with a going of 0.25 m: 2 risers and a going make 0.625 m. */
export const STAIR = { steps: 16, riser: STOREY / 16, going: 0.25 } as const;

function stair(): Asset {
  const { steps, riser, going } = STAIR;
  const shape = new Shape();
  for (let i = 0; i < steps; i++) {
    const x = -2 + i * going;
    const colour: Colour = i % 2 ? COPING : [COPING[0] * 0.92, COPING[1] * 0.92, COPING[2] * 0.92];
    shape.box([x, Math.max(0, i * riser - 0.12), -0.6], [x + going, (i + 1) * riser, 0.6], colour, i === 0 ? ['bottom', 'east'] : ['east']);
  }
  shape.face(
    [
      [2, STOREY - riser - 0.12, -0.6],
      [2, STOREY, -0.6],
      [2, STOREY, 0.6],
      [2, STOREY - riser - 0.12, 0.6],
    ],
    COPING,
  );
  return piece('stair', [2.7, 3.3], ['stair'], 'mesh', shape);
}

/** The six pieces of the shed kit, in the order of the library. */
export const shippedPieces = (): Asset[] => [wall(), corner(), doorWall(), floor(), roof(), stair()];
