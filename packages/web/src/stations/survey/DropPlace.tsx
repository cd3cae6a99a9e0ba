import type { ReactNode } from 'react';

/** A place where one file can be dropped. */
export function DropPlace({
  className,
  onFile,
  children,
}: {
  className?: string | undefined;
  onFile: (file: File) => void;
  children: ReactNode;
}) {
  return (
    <div
      className={className}
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        const file = event.dataTransfer.files[0];
        if (file) onFile(file);
      }}
    >
      {children}
    </div>
  );
}
