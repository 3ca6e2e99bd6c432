import { answering, readLength } from '@/app/api/respond';
import { linesOf } from '@/app/api/streams';
import { checkPackage } from '@/server/service/package/takePackage';

/** Receives a package and checks all of it, told line by line; what is checked waits to be brought in. */
export const POST = answering(async (request: Request) => linesOf(checkPackage(request.body, readLength(request))));
