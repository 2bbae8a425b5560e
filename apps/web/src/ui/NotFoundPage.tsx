import { Link } from 'react-router';

export function NotFoundPage() {
  return (
    <main className="grid h-full place-items-center p-8 text-center">
      <div>
        <h1 className="text-lg font-semibold">There is nothing at this address</h1>
        <p className="mt-1 text-soft">The link may be old or mistyped.</p>
        <Link
          to="/"
          className="mt-4 inline-block rounded border border-border bg-panel px-4 py-2 font-medium"
        >
          Go to the shelf
        </Link>
      </div>
    </main>
  );
}
