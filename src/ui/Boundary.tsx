'use client';
import { Component, type ErrorInfo, type ReactNode } from 'react';
import { Button } from '@/ui/Button';

type Props = { readonly what: string; readonly children: ReactNode; readonly className?: string };

/** Keeps a part of the page that fails from taking the rest with it; says what is safe, and tries again at a press. */
export class Boundary extends Component<Props, { readonly error: Error | null }> {
  override state: { readonly error: Error | null } = { error: null };

  static getDerivedStateFromError(error: unknown): { error: Error } {
    return { error: error instanceof Error ? error : new Error(String(error)) };
  }

  override componentDidCatch(error: unknown, info: ErrorInfo): void {
    console.error(`${this.props.what} could not be shown.`, error, info.componentStack);
  }

  override render(): ReactNode {
    const { error } = this.state;
    if (!error) return this.props.children;
    return (
      <section role="alert" className={`panel flex flex-col items-start gap-2 overflow-auto p-4 ${this.props.className ?? ''}`}>
        <p className="font-bold">{this.props.what} could not be shown.</p>
        <p className="text-soft">
          Your drawings and everything else you did are safe; the rest of the page goes on.{' '}
          <span className="numbers">({error.message})</span>
        </p>
        <Button onClick={() => this.setState({ error: null })}>Try again</Button>
      </section>
    );
  }
}
