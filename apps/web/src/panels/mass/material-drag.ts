import type { DragEvent } from 'react';

/** What a dragged material is known by. */
export const MATERIAL_DRAG = 'application/x-bathyscope-material';

/** Lets a material be dropped on something. @param give hears its id and where it was dropped */
export const takesMaterial = (give: (id: string, at: { clientX: number; clientY: number }) => void) => ({
  onDragOver: (e: DragEvent) => {
    if (e.dataTransfer.types.includes(MATERIAL_DRAG)) e.preventDefault();
  },
  onDrop: (e: DragEvent) => {
    const id = e.dataTransfer.getData(MATERIAL_DRAG);
    if (!id) return;
    e.preventDefault();
    e.stopPropagation();
    give(id, e);
  },
});
