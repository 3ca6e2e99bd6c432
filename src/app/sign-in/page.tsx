import type { Metadata } from 'next';
import { SignIn } from '@/features/shelf/SignIn';

export const metadata: Metadata = { title: 'Sign in · Lime Tick' };

export default function SignInPage() {
  return <SignIn />;
}
