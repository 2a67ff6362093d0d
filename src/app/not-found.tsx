import Link from "next/link";

export default function NotFound() {
  return (
    <main className="mx-auto max-w-xl p-6">
      <h1 className="text-2xl font-bold">There is nothing here</h1>
      <p className="mt-3">
        The job was deleted, or the address is wrong. A job that was just deleted can be brought back from the list.
      </p>
      <Link className="btn btn-primary press mt-4" href="/jobs">
        All jobs
      </Link>
    </main>
  );
}
