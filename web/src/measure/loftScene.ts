import type { Loft } from '@alluvium/core';
import {
  AmbientLight,
  BufferAttribute,
  BufferGeometry,
  Color,
  DirectionalLight,
  DoubleSide,
  Group,
  Mesh,
  MeshStandardMaterial,
  PerspectiveCamera,
  Scene,
  Vector3,
  WebGLRenderer,
} from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';

export interface LoftBody {
  readonly loft: Loft;
  /** One colour value 0…1 a section, in the order of the tube's sections; undefined paints it plain. */
  readonly shade?: readonly (readonly number[])[];
  /** A skin around it: drawn translucent. */
  readonly skin?: boolean;
}

export interface LoftScene {
  readonly show: (bodies: readonly LoftBody[], colours: { low: string; high: string; metal: string }) => void;
  readonly turn: (dx: number, dy: number) => void;
  readonly resize: (width: number, height: number) => void;
  readonly close: () => void;
}

/** @throws Error where the browser has no WebGL. */
export function openLoftScene(canvas: HTMLCanvasElement): LoftScene {
  const renderer = new WebGLRenderer({ canvas, antialias: true, alpha: true, preserveDrawingBuffer: true });
  const scene = new Scene();
  const camera = new PerspectiveCamera(34, 1, 0.001, 10);
  const controls = new OrbitControls(camera, canvas);
  controls.enableDamping = false;
  scene.add(new AmbientLight(0xffffff, 1.5));
  const sun = new DirectionalLight(0xffffff, 2.2);
  sun.position.set(0.4, 1, 0.8);
  scene.add(sun);
  let group = new Group();
  scene.add(group);
  /** How many ports the view was set for. */
  let framed = 0;
  const draw = () => {
    renderer.render(scene, camera);
    // Tells whoever waits for it that a picture of something is there.
    if (group.children.length > 0) canvas.dataset.drawn = 'yes';
  };
  controls.addEventListener('change', draw);

  function geometryOf(tube: Loft['tubes'][number], shade: readonly number[] | undefined, low: Color, high: Color) {
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(tube.positions, 3));
    geometry.setIndex(new BufferAttribute(tube.triangles, 1));
    if (shade) {
      const colours = new Float32Array(tube.sectionOf.length * 3);
      const mixed = new Color();
      tube.sectionOf.forEach((section, i) => {
        mixed.lerpColors(low, high, shade[section] ?? 0);
        mixed.toArray(colours, i * 3);
      });
      geometry.setAttribute('color', new BufferAttribute(colours, 3));
    }
    geometry.computeVertexNormals();
    return geometry;
  }

  return {
    show: (bodies, colours) => {
      scene.remove(group);
      group.traverse((o) => {
        if (o instanceof Mesh) {
          (o.geometry as BufferGeometry).dispose();
          (o.material as MeshStandardMaterial).dispose();
        }
      });
      group = new Group();
      const [low, high] = [new Color(colours.low), new Color(colours.high)];
      bodies.forEach((body, b) => {
        body.loft.tubes.forEach((tube, t) => {
          const shade = body.shade?.[t];
          const material = new MeshStandardMaterial({
            roughness: 0.75,
            side: DoubleSide,
            ...(shade ? { vertexColors: true } : { color: new Color(body.skin ? colours.metal : colours.low) }),
            ...(body.skin ? { transparent: true, opacity: 0.28, depthWrite: false } : {}),
          });
          const geometry = geometryOf(tube, shade, low, high);
          // The skin stays open at both ends: its caps lie in the same plane as the port's.
          if (body.skin) geometry.setDrawRange(0, tube.triangles.length - tube.capIndices);
          const mesh = new Mesh(geometry, material);
          group.add(mesh);
          mesh.userData.body = b;
        });
      });
      scene.add(group);
      // The whole of it in view, from above the flange.
      const box = new Vector3();
      let reach = 0.02;
      const middle = new Vector3();
      let n = 0;
      group.traverse((o) => {
        if (!(o instanceof Mesh)) return;
        const p = (o.geometry as BufferGeometry).getAttribute('position');
        for (let i = 0; i < p.count; i++) {
          middle.add(box.fromBufferAttribute(p, i));
          n++;
        }
      });
      if (n) middle.divideScalar(n);
      group.traverse((o) => {
        if (!(o instanceof Mesh)) return;
        const p = (o.geometry as BufferGeometry).getAttribute('position');
        for (let i = 0; i < p.count; i++) reach = Math.max(reach, box.fromBufferAttribute(p, i).distanceTo(middle));
      });
      // A view the user has turned stays as it is.
      const ports = bodies.filter((b) => !b.skin).length;
      if (framed === ports) return draw();
      framed = ports;
      controls.target.copy(middle);
      camera.position.copy(middle).add(new Vector3(-0.9, 0.75, 1.5).normalize().multiplyScalar(reach * 2.9));
      controls.update();
      draw();
    },
    turn: (dx, dy) => {
      const offset = camera.position.clone().sub(controls.target);
      offset.applyAxisAngle(new Vector3(0, 1, 0), dx);
      const axis = new Vector3().crossVectors(offset, new Vector3(0, 1, 0)).normalize();
      offset.applyAxisAngle(axis, dy);
      camera.position.copy(controls.target).add(offset);
      controls.update();
      draw();
    },
    resize: (width, height) => {
      renderer.setPixelRatio(Math.min(2, devicePixelRatio));
      renderer.setSize(width, height, false);
      camera.aspect = width / height;
      camera.updateProjectionMatrix();
      draw();
    },
    close: () => {
      controls.dispose();
      renderer.dispose();
    },
  };
}
